import type { CrossingView, SettingKey } from '@underpass/core';

/** A setting that can be tried at one press. */
export interface Control {
  key: SettingKey;
  label: string;
  options: readonly string[];
  words?: Record<string, string>;
  read: (value: unknown) => string;
  write: (option: string) => string | number | boolean;
}
const asNumber: Pick<Control, 'read' | 'write'> = { read: String, write: Number };
const asText: Pick<Control, 'read' | 'write'> = { read: String, write: (option) => option };
const asSwitch: Pick<Control, 'read' | 'write'> = { read: (value) => (value ? 'yes' : 'no'), write: (option) => option === 'yes' };

const controls: readonly Control[] = [
  {
    key: 'picture.heldHeight',
    label: 'Hold screens',
    options: ['1080', '1440', '2160', '4320'],
    words: { '1080': '1080p', '1440': '1440p', '2160': '2160p', '4320': 'no' },
    ...asNumber,
  },
  { key: 'picture.frameCap', label: 'Frame rate', options: ['15', '20', '24', '30', '60'], ...asNumber },
  {
    key: 'picture.codec',
    label: 'Codec',
    options: ['progressive', 'h264', 'hevc', 'av1'],
    words: { progressive: 'progressive', h264: 'H.264', hevc: 'H.265', av1: 'AV1' },
    ...asText,
  },
  { key: 'screens.most', label: 'Screens', options: ['1', '2', '3', '4'], ...asNumber },
  { key: 'media.callOffload', label: 'Call sound', options: ['no', 'yes'], words: { no: 'via host', yes: 'offload' }, ...asSwitch },
  { key: 'picture.chroma', label: 'Colour detail', options: ['4:2:0', '4:4:4'], ...asText },
  { key: 'transport.prefer', label: 'Transport', options: ['udp', 'tcp'], words: { udp: 'UDP', tcp: 'TCP' }, ...asText },
  { key: 'session.entryLink', label: 'Entry link', options: ['no', 'yes'], ...asSwitch },
];
const leftBehind: Control = {
  key: 'session.leftBehind',
  label: 'Left behind',
  options: ['ask', 'most recent', 'none'],
  words: { 'most recent': 'latest', none: 'leave' },
  ...asText,
};

/** What can be tried on a crossing; what becomes of sessions left behind only where there are some. */
export const controlsFor = (view: CrossingView): readonly Control[] =>
  view.leftBehind.sessions.length > 0 ? [...controls, leftBehind] : controls;
