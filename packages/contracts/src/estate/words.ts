import { z } from 'zod';

/** The closed word lists of the estate. One place, so that files, forms, database and core agree. */
export const LocationKind = z.enum(['office', 'control-room', 'ticket-hall', 'dock', 'vessel', 'home', 'outside']);
export const LineKind = z.enum(['fibre', 'cable', 'dsl', '4g', '5g', 'radio', 'leo-satellite', 'geo-satellite']);
export const ClientKind = z.enum(['browser', 'native client', 'thin-client firmware']);
export const DeviceClass = z.enum(['thin-client', 'laptop', 'desktop-computer', 'tablet', 'phone', 'kiosk']);
export const Processor = z.enum(['armhf', 'arm64', 'x86-64']);
/** How a device starts from a card: by its old or new firmware, or as a small board does, from the card itself. */
export const BootMode = z.enum(['bios', 'uefi', 'board']);
export const Ownership = z.enum(['managed', 'personal']);
export const Codec = z.enum(['bitmap', 'progressive', 'h264', 'hevc', 'av1']);
export const PortKind = z.enum(['internal', 'dvi', 'hdmi-1.4', 'hdmi-2.0', 'dp-hbr', 'dp-hbr2', 'dp-hbr3', 'usb-c-2-lane']);
export const PeripheralKind = z.enum(['headset', 'camera', 'card-reader', 'printer', 'scanner', 'storage']);
export const SecurityMode = z.enum(['tls', 'pre-session']);
/** How the name of whoever signs in is written. */
export const NameForm = z.enum(['bare', 'domain before', 'domain behind']);
export const WorkKind = z.enum(['office', 'calls', 'video', 'design', 'touch', 'status']);
export const ContentClass = z.enum(['still', 'text', 'window', 'page-video', 'video', 'motion']);
export const Layer = z.enum(['organisation', 'device class', 'location', 'group', 'person', 'endpoint']);
export const Verdict = z.enum(['clear', 'limited', 'blocked', 'unknown']);
export const Bay = z.enum(['Desk', 'Endpoint', 'Local network', 'Link', 'Gateway', 'Host', 'Workspace']);
export const Source = z.enum(['measured', 'reported', 'declared', 'assumed']);
export const Vantage = z.enum(['desk', 'host', 'session', 'not the desk']);
/** Steps from switching on to the first useful picture, in the order they are told in. */
export const SignonStep = z.enum([
  'endpoint boot',
  'network up',
  'client start',
  'sign-in form',
  'password',
  'second factor',
  'list of resources',
  'choose',
  'broker',
  'password at the broker',
  'power on',
  'wake',
  'session create',
  'pre-session sign-in',
  'password at the host',
  'profile attach',
  'applications delivered',
  'shell',
  'first useful picture',
]);
export const Weekday = z.enum(['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun']);
export const Role = z.enum(['reader', 'engineer', 'admin']);
/** What people call who has a role. */
export const roleWords = { reader: 'reader', engineer: 'access engineer', admin: 'administrator' } satisfies Record<Role, string>;

export type LocationKind = z.infer<typeof LocationKind>;
export type LineKind = z.infer<typeof LineKind>;
export type ClientKind = z.infer<typeof ClientKind>;
export type DeviceClass = z.infer<typeof DeviceClass>;
export type Codec = z.infer<typeof Codec>;
export type PortKind = z.infer<typeof PortKind>;
export type PeripheralKind = z.infer<typeof PeripheralKind>;
export type SecurityMode = z.infer<typeof SecurityMode>;
export type WorkKind = z.infer<typeof WorkKind>;
export type ContentClass = z.infer<typeof ContentClass>;
export type Layer = z.infer<typeof Layer>;
export type Verdict = z.infer<typeof Verdict>;
export type Bay = z.infer<typeof Bay>;
export type Source = z.infer<typeof Source>;
export type Vantage = z.infer<typeof Vantage>;
export type SignonStep = z.infer<typeof SignonStep>;
export type NameForm = z.infer<typeof NameForm>;
export type Weekday = z.infer<typeof Weekday>;
export type Role = z.infer<typeof Role>;
