/** What an option holds, by which its bytes are read and checked. */
export type OptionType =
  | 'address'
  | 'addresses'
  | 'address pairs'
  | 'text'
  | 'u8'
  | 'u16'
  | 'u32'
  | 'i32'
  | 'yes or no'
  | 'message type'
  | 'codes'
  | 'identifier'
  | 'names'
  | 'routes'
  | 'texts'
  | 'within'
  | 'bytes';

interface Known {
  name: string;
  type: OptionType;
}
const known = (name: string, type: OptionType): Known => ({ name, type });

/** Options by their number [RFC 2132, 3004, 3046, 3397, 3442, 4702, 7710; IANA, BOOTP and DHCP parameters; those of no test from memory]. */
const options: Readonly<Record<number, Known>> = {
  1: known('subnet mask', 'address'),
  2: known('time offset', 'i32'),
  3: known('router', 'addresses'),
  4: known('time server', 'addresses'),
  6: known('name server', 'addresses'),
  7: known('log server', 'addresses'),
  9: known('print server', 'addresses'),
  12: known('host name', 'text'),
  13: known('boot file size', 'u16'),
  15: known('domain name', 'text'),
  17: known('root path', 'text'),
  19: known('forwarding', 'yes or no'),
  23: known('time to live', 'u8'),
  26: known('interface MTU', 'u16'),
  28: known('broadcast address', 'address'),
  31: known('router discovery', 'yes or no'),
  33: known('static routes', 'address pairs'),
  42: known('time server (NTP)', 'addresses'),
  43: known('vendor-specific', 'within'),
  44: known('NetBIOS name server', 'addresses'),
  46: known('NetBIOS node type', 'u8'),
  50: known('requested address', 'address'),
  51: known('lease time', 'u32'),
  52: known('option overload', 'u8'),
  53: known('message type', 'message type'),
  54: known('server', 'address'),
  55: known('asked for', 'codes'),
  56: known('message', 'text'),
  57: known('longest message', 'u16'),
  58: known('renewal time', 'u32'),
  59: known('rebinding time', 'u32'),
  60: known('vendor class', 'text'),
  61: known('client identifier', 'identifier'),
  66: known('boot server name', 'text'),
  67: known('boot file name', 'text'),
  69: known('mail server', 'addresses'),
  72: known('web server', 'addresses'),
  77: known('user class', 'texts'),
  80: known('rapid commit', 'bytes'),
  81: known('full host name', 'bytes'),
  82: known('relay', 'within'),
  93: known('processor type', 'u16'),
  94: known('network interface', 'bytes'),
  97: known('machine identifier', 'identifier'),
  114: known('captive portal', 'text'),
  116: known('own address without a server', 'u8'),
  119: known('search list', 'names'),
  121: known('routes', 'routes'),
  150: known('boot servers', 'addresses'),
  249: known('routes (private number)', 'routes'),
  252: known('proxy settings (private number)', 'text'),
};

/** What an option is called; numbers of 224 to 254 are each fleet's own [RFC 3942]. */
export const optionName = (code: number): string => options[code]?.name ?? (code >= 224 && code <= 254 ? 'own number' : 'not known');

/** What an option holds; null where no standard says, as of a fleet's own numbers. */
export const optionType = (code: number): OptionType | null => options[code]?.type ?? null;

/** Types of message, by option 53 [RFC 2132 9.6, RFC 3203, 4388, 6926, 7724]. */
export const messageTypes: readonly string[] = [
  '',
  ...['DISCOVER', 'OFFER', 'REQUEST', 'DECLINE', 'ACK', 'NAK', 'RELEASE', 'INFORM', 'FORCERENEW'],
  ...['LEASEQUERY', 'LEASEUNASSIGNED', 'LEASEUNKNOWN', 'LEASEACTIVE', 'BULKLEASEQUERY', 'LEASEQUERYDONE'],
  ...['ACTIVELEASEQUERY', 'LEASEQUERYSTATUS', 'TLS'],
];
