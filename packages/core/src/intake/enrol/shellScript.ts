/** A word of a shell that nothing of is read otherwise [POSIX.1-2017, Shell Command Language 2.2.2]. */
const quoted = (text: string): string => `'${text.replaceAll("'", `'\\''`)}'`;

const body = String.raw`set -u
LC_ALL=C; export LC_ALL
root=''; class=''; kind=''; version=''; only=''
while [ $# -gt 0 ]; do
  case $1 in
    --class) class=$2; shift 2 ;;
    --client) kind=$2; shift 2 ;;
    --client-version) version=$2; shift 2 ;;
    --root) root=$2; shift 2 ;;
    --print) only=yes; shift ;;
    *) echo "usage: sh $0 [--class thin-client] [--client 'native client'] [--client-version 4.12.1] [--root FOLDER] [--print]" >&2; exit 2 ;;
  esac
done
has() { command -v "$1" >/dev/null 2>&1; }
# a text of JSON: one line of plain characters, so that nothing in it is read otherwise
text() { printf '"%s"' "$(printf '%s' "$1" | tr -d '\000' | tr -cd '[:print:]' | tr -d '"\\' | cut -c1-"$2")"; }
# a part of the report, where there is something to say
part() { [ -n "$2" ] && printf ',"%s":' "$1" && text "$2" "$3"; }
number() { case $2 in '' | *[!0-9-]*) ;; *) printf ',"%s":%s' "$1" "$2" ;; esac; }
first() { [ -r "$1" ] && head -n 1 "$1" 2>/dev/null | tr -d '\000'; }

name=$(first "$root/etc/hostname"); [ -z "$root" ] && name=$(uname -n)
way=$(awk '$2 == "00000000" { print $1; exit }' "$root/proc/net/route" 2>/dev/null)
if [ -z "$way" ]; then
  for each in "$root"/sys/class/net/*; do
    [ "$(first "$each/operstate")" = up ] && [ "$(basename "$each")" != lo ] && way=$(basename "$each") && break
  done
fi
own=$(first "$root/etc/machine-id")
[ -z "$own" ] && [ -n "$way" ] && own=$(first "$root/sys/class/net/$way/address")
[ -z "$own" ] && own=$name
# its own number is not told, only a sum of it
if has sha256sum; then key=$(printf 'underpass %s' "$own" | sha256sum | cut -c1-32)
else key=$(printf '%s' "$own" | od -An -v -tx1 | tr -d ' \n' | cut -c1-64); while [ "${'${#key}'}" -lt 16 ]; do key="0$key"; done; fi

addresses() {
  if [ -z "$root" ] && has ip; then ip -o addr show 2>/dev/null | awk '$3 == "inet" || $3 == "inet6" { split($4, a, "/"); print a[1] }'
  elif [ -z "$root" ]; then hostname -I 2>/dev/null | tr ' ' '\n'
  fi | grep -v -e '^127\.' -e '^::1$' -e '^fe80:' -e '^$' | head -n 32
}
list() { sep=''; while IFS= read -r line; do printf '%s' "$sep"; text "$line" "$1"; sep=','; done; }

screens() {
  sep=''
  for each in "$root"/sys/class/drm/card*-*; do
    [ -s "$each/edid" ] || [ "$(first "$each/status")" = connected ] || continue
    edid=$(head -c 1024 "$each/edid" 2>/dev/null | od -An -v -tx1 | tr -d ' \n')
    [ -n "$edid" ] || continue
    printf '%s{"port":' "$sep"; text "$(basename "$each")" 40; printf ',"edid":"%s"}' "$edid"; sep=','
  done
}
usb() {
  sep=''
  for each in "$root"/sys/bus/usb/devices/*; do
    vendor=$(first "$each/idVendor"); product=$(first "$each/idProduct")
    case $vendor$product in '' | *[!0-9a-fA-F]*) continue ;; esac
    classes=''
    for of in "$each":*; do
      code=$(first "$of/bInterfaceClass")
      case $code in '' | *[!0-9a-fA-F]*) continue ;; esac
      classes="$classes,\"$code/$(first "$of/bInterfaceSubClass")/$(first "$of/bInterfaceProtocol")\""
    done
    [ -n "$classes" ] || continue
    printf '%s{"vendor":"%s","product":"%s","classes":[%s]}' "$sep" "$vendor" "$product" "${'${classes#,}'}"; sep=','
  done
}
graphics() {
  for each in "$root"/sys/class/drm/card*; do
    case $(basename "$each") in *-*) continue ;; esac
    vendor=$(first "$each/device/vendor"); device=$(first "$each/device/device")
    [ -n "$vendor" ] && printf '%s:%s\n' "${'${vendor#0x}'}" "${'${device#0x}'}"
  done | head -n 8
}
joined=''; signal=''
if [ -n "$way" ]; then
  joined=wired
  { [ -d "$root/sys/class/net/$way/wireless" ] || [ -e "$root/sys/class/net/$way/phy80211" ]; } && joined=wifi
  signal=$(awk -v way="$way:" '$1 == way { print int($4) }' "$root/proc/net/wireless" 2>/dev/null)
fi
zone=$(first "$root/etc/timezone"); [ -z "$zone" ] && zone=$(readlink "$root/etc/localtime" 2>/dev/null | sed 's#.*/zoneinfo/##')
model=$(first "$root/sys/class/dmi/id/product_name"); [ -z "$model" ] && model=$(first "$root/proc/device-tree/model")
cpus=$(grep -c '^processor' "$root/proc/cpuinfo" 2>/dev/null)
[ "${'${cpus:-0}'}" -gt 0 ] || cpus=''

report() {
  printf '{"v":1,"key":"%s","name":' "$key"; text "$name" 63
  part machine "$(uname -m)" 30
  number cpus "$cpus"
  number memoryKB "$(awk '/^MemTotal:/ { print $2 }' "$root/proc/meminfo" 2>/dev/null)"
  number chassis "$(first "$root/sys/class/dmi/id/chassis_type")"
  part model "$model" 120
  part system "$(sed -n 's/^PRETTY_NAME=//p' "$root/etc/os-release" 2>/dev/null)" 120
  printf ',"addresses":[%s]' "$(addresses | list 45)"
  part connection "$joined" 10
  [ "$joined" = wifi ] && number signalDbm "$signal"
  printf ',"screens":[%s]' "$(screens)"
  printf ',"usb":[%s]' "$(usb)"
  printf ',"graphics":[%s]' "$(graphics | list 80)"
  part time "$(date -u +%Y-%m-%dT%H:%M:%SZ)" 20
  part zone "$zone" 60
  part class "$class" 30
  if [ -n "$kind$version" ]; then
    printf ',"client":{'; sep=''
    [ -n "$kind" ] && printf '"kind":' && text "$kind" 30 && sep=','
    [ -n "$version" ] && printf '%s"version":' "$sep" && text "$version" 40
    printf '}'
  fi
  printf '}'
}
told=$(report)
echo 'This is told, and nothing else:'
printf '%s\n' "$told"
[ -n "$only" ] && exit 0
if has curl; then printf '%s' "$told" | curl -sS --max-time 30 -H 'content-type: application/json' -H 'accept: text/plain' --data-binary @- "$address"
elif has wget; then wget -q -T 30 -O - --header 'content-type: application/json' --header 'accept: text/plain' --post-data "$told" "$address"
else echo 'There is neither curl nor wget to send it with.' >&2; exit 1
fi || { echo 'It could not be sent.' >&2; exit 1; }
echo
`;

/**
 * A script for a POSIX shell that reads what the system itself shows, prints it, and sends it. It needs awk, sed, od and tr, and curl
 * or wget to send.
 * @param address where reports go
 */
export const shellScript = (address: string): string =>
  `#!/bin/sh
# Tells what this device is: processor, memory, system, addresses, connection, screens, USB, graphics, clock and zone. No name of a
# file, nothing of what people do. What is told is printed; with --print it is not sent.
address=${quoted(address)}
${body}`;
