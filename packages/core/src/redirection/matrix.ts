import { followed, type Follower, type SettingKey, type SettingValues } from '../settings/index.js';

/** Who carries: a guest or not, and on whose device. */
export interface Carrier extends Follower {
  guest: boolean;
  ownership: 'managed' | 'personal';
}
/** Whether one thing goes one way, and the setting that decides it. */
export interface CarryCell {
  what: string;
  way: 'in' | 'out';
  /** Data that leaves, as against what only comes in or is heard. */
  isData: boolean;
  carried: boolean;
  /** The setting that decides; the first that keeps it out, else the one that lets it through. */
  by: SettingKey;
}

const yes = { carried: true } as const;
const no = { carried: false } as const;

/** What somebody can and cannot carry in and out of a session, thing by thing, with the setting that decides each. */
export function carryCells(s: SettingValues, who: Carrier): CarryCell[] {
  const cells: CarryCell[] = [];
  const cell = (what: string, way: CarryCell['way'], isData: boolean, result: { carried: boolean; by: SettingKey }) =>
    cells.push({ what, way, isData, ...result });
  const guests = who.guest ? s['security.guests'] : 'as everybody';
  const guestKeeps = (way: 'in' | 'out') => guests === 'only look' || (guests === 'nothing leaves' && way === 'out');
  const limited = who.ownership === 'personal' && s['security.personalDevices'] === 'limited';
  const clipboard = s['redirection.clipboard'];
  for (const way of ['in', 'out'] as const) {
    const goes = clipboard === 'both' || clipboard === way;
    const text: { carried: boolean; by: SettingKey } = guestKeeps(way)
      ? { ...no, by: 'security.guests' }
      : { carried: goes, by: 'redirection.clipboard' };
    cell('Text by the clipboard', way, way === 'out', text);
    cell(
      'Files by the clipboard',
      way,
      way === 'out',
      text.carried && s['redirection.clipboardHolds'] === 'text only' ? { ...no, by: 'redirection.clipboardHolds' } : text,
    );
    cell('Files on drives and sticks', way, way === 'out', driveCell(s, who, way, guestKeeps(way), limited));
  }
  cell('Printing', 'out', true, printCell(s, guestKeeps('out')));
  const blocked = followed(s, 'security.screenshotBlock', who);
  cell('Pictures taken by a program', 'out', true, { carried: !blocked, by: 'security.screenshotBlock' });
  cell('Photographs without a name on them', 'out', true, { carried: !s['security.watermark'], by: 'security.watermark' });
  cell('Camera', 'in', false, listed(s, 'camera', followed(s, 'redirection.camera', who) === 'not' ? 'redirection.camera' : null));
  cell('Microphone', 'in', false, { carried: s['sound.microphone'], by: 'sound.microphone' });
  cell('Sound', 'out', false, { carried: s['sound.play'] === 'on the endpoint', by: 'sound.play' });
  cell('Smart card', 'in', false, listed(s, 'card-reader', s['redirection.smartCard'] ? null : 'redirection.smartCard'));
  cell('Scanner', 'in', false, listed(s, 'scanner', null));
  cell('Serial ports', 'in', false, { carried: followed(s, 'redirection.serial', who), by: 'redirection.serial' });
  cell('Place of the device', 'in', false, { carried: s['redirection.location'], by: 'redirection.location' });
  cell('Time zone of the desk', 'in', false, { carried: s['redirection.timeZone'], by: 'redirection.timeZone' });
  return cells;
}

function driveCell(
  s: SettingValues,
  who: Carrier,
  way: 'in' | 'out',
  guestKeeps: boolean,
  limited: boolean,
): { carried: boolean; by: SettingKey } {
  if (who.clientKind === 'browser' || !s['redirection.devices'].includes('storage')) return { ...no, by: 'redirection.devices' };
  if (guestKeeps) return { ...no, by: 'security.guests' };
  if (limited) return { ...no, by: 'security.personalDevices' };
  const drives = followed(s, 'redirection.drives', who);
  return { carried: drives !== 'none' && (way === 'in' || drives !== 'read only'), by: 'redirection.drives' };
}
function printCell(s: SettingValues, guestKeeps: boolean): { carried: boolean; by: SettingKey } {
  if (!s['redirection.devices'].includes('printer')) return { ...no, by: 'redirection.devices' };
  if (guestKeeps) return { ...no, by: 'security.guests' };
  return { carried: s['redirection.printers'] !== 'none', by: 'redirection.printers' };
}
const listed = (
  s: SettingValues,
  kind: 'camera' | 'card-reader' | 'scanner',
  kept: SettingKey | null,
): { carried: boolean; by: SettingKey } =>
  !s['redirection.devices'].includes(kind)
    ? { ...no, by: 'redirection.devices' }
    : kept
      ? { ...no, by: kept }
      : { ...yes, by: 'redirection.devices' };
