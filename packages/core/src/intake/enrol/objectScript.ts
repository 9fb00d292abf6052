/** A text of the other kind of shell that nothing of is read otherwise: in single quotes, each of them written twice. */
const quoted = (text: string): string => `'${text.replaceAll("'", "''")}'`;

const body = String.raw`$ErrorActionPreference = 'SilentlyContinue'
function Of([string]$name, [string]$from = 'root\cimv2') { Get-CimInstance -Namespace $from -ClassName $name }
function Word($value, [int]$most) {
  $line = ([string]$value -replace '[\x00-\x1f\x7f]', ' ').Trim()
  if ($line.Length -gt $most) { $line.Substring(0, $most) } else { $line }
}
$system = Of 'Win32_ComputerSystem'
$os = Of 'Win32_OperatingSystem'
$processor = @(Of 'Win32_Processor')
$sum = [System.Security.Cryptography.SHA256]::Create()
$own = (Of 'Win32_ComputerSystemProduct').UUID
if (-not $own) { $own = $env:COMPUTERNAME }
# its own number is not told, only a sum of it
$key = -join ($sum.ComputeHash([Text.Encoding]::UTF8.GetBytes("underpass $own"))[0..15] | ForEach-Object { $_.ToString('x2') })

$report = [ordered]@{ v = 1; key = $key; name = (Word $env:COMPUTERNAME 63) }
$report.machine = Word $env:PROCESSOR_ARCHITECTURE 30
$report.cpus = [int]($processor | Measure-Object -Property NumberOfLogicalProcessors -Sum).Sum
$report.memoryKB = [long]($system.TotalPhysicalMemory / 1024)
$chassis = @((Of 'Win32_SystemEnclosure').ChassisTypes)[0]
if ($null -ne $chassis) { $report.chassis = [int]$chassis }
if ($system.Model) { $report.model = Word $system.Model 120 }
if ($os.Caption) { $report.system = Word "$($os.Caption) $($os.Version)" 120 }
$joined = @(Of 'Win32_NetworkAdapterConfiguration' | Where-Object { $_.IPEnabled })
$report.addresses = @($joined | ForEach-Object { $_.IPAddress } | Where-Object { $_ -and $_ -notmatch '^(127\.|::1$|fe80:)' } | Select-Object -First 32)
$way = $joined | Where-Object { $_.DefaultIPGateway } | Sort-Object IPConnectionMetric | Select-Object -First 1
if ($way) {
  $medium = (Of 'MSFT_NetAdapter' 'root\StandardCimv2' | Where-Object { $_.InterfaceIndex -eq $way.InterfaceIndex }).NdisPhysicalMedium
  $report.connection = if ($medium -in 1, 9) { 'wifi' } else { 'wired' }
}
$report.screens = @(Of 'WmiMonitorDescriptorMethods' 'root\wmi' | ForEach-Object {
  $hex = ''
  foreach ($block in 0..7) {
    $read = Invoke-CimMethod -InputObject $_ -MethodName 'WmiGetMonitorRawEEdidV1Block' -Arguments @{ BlockId = [byte]$block }
    if (-not $read -or -not $read.BlockContent) { break }
    $hex += -join ($read.BlockContent | ForEach-Object { $_.ToString('x2') })
  }
  if ($hex) { @{ port = (Word ($_.InstanceName -split '\\')[1] 40); edid = $hex } }
} | Select-Object -First 16)
$report.usb = @(Of 'Win32_PnPEntity' | ForEach-Object {
  if ($_.DeviceID -match '^USB\\VID_([0-9A-F]{4})&PID_([0-9A-F]{4})') {
    $vendor = $Matches[1].ToLower(); $product = $Matches[2].ToLower()
    $classes = @($_.CompatibleID | ForEach-Object { if ($_ -match 'Class_([0-9a-f]{2})&SubClass_([0-9a-f]{2})&Prot_([0-9a-f]{2})') { "$($Matches[1])/$($Matches[2])/$($Matches[3])".ToLower() } })
    if ($classes) { @{ vendor = $vendor; product = $product; classes = $classes } }
  }
} | Select-Object -First 64)
$report.graphics = @(Of 'Win32_VideoController' | ForEach-Object { if ($_.PNPDeviceID -match 'VEN_([0-9A-F]{4})&DEV_([0-9A-F]{4})') { "$($Matches[1]):$($Matches[2])".ToLower() } } | Select-Object -First 8)
$report.time = [DateTime]::UtcNow.ToString('yyyy-MM-ddTHH:mm:ssZ')
$report.zone = Word ([TimeZoneInfo]::Local.Id) 60
if ($Class) { $report.class = $Class }
if ($ClientKind -or $ClientVersion) {
  $report.client = @{}
  if ($ClientKind) { $report.client.kind = $ClientKind }
  if ($ClientVersion) { $report.client.version = $ClientVersion }
}
$told = $report | ConvertTo-Json -Depth 5 -Compress
'This is told, and nothing else:'
$told
if ($Print) { return }
try {
  Invoke-RestMethod -Method Post -Uri $address -ContentType 'application/json' -Headers @{ accept = 'text/plain' } -Body ([Text.Encoding]::UTF8.GetBytes($told)) -TimeoutSec 30 -ErrorAction Stop
} catch { Write-Error 'It could not be sent.' -ErrorAction Continue; exit 1 }
`;

/**
 * The same for systems whose shell hands on objects and not texts: what its management classes show [DMTF CIM].
 * @param address where reports go
 */
export const objectScript = (address: string): string =>
  `# Tells what this device is: processor, memory, system, addresses, connection, screens, USB, graphics, clock and zone. No name of a
# file, nothing of what people do. What is told is printed; with -Print it is not sent.
param([string]$Class, [string]$ClientKind, [string]$ClientVersion, [switch]$Print)
$address = ${quoted(address)}
${body}`;
