import type { ClientKind, SettingValue } from '@underpass/contracts';

/** How entries of several layers come to one value: the nearest, the strictest, or all together. */
export type MergeRule = 'nearest' | 'strictest' | 'add';

interface Common<T> {
  subject: 'picture' | 'screens' | 'media' | 'redirection' | 'security' | 'session' | 'transport' | 'client';
  label: string;
  does: string;
  default: T;
  /** Where the default comes from. */
  source: string;
  merge: MergeRule;
  /** Kinds of client that do not follow it, whatever it says; common practice, no source. */
  ignoredBy?: readonly ClientKind[];
}
/** A setting: what it is called, does, takes, and how its layers are merged. */
export type SettingDefinition =
  | (Common<boolean> & { type: 'switch'; /** For strictest: the safer side. */ safer?: boolean })
  | (Common<string> & { type: 'choice'; options: readonly string[] /** From free to safe, for strictest. */ })
  | (Common<number> & { type: 'number'; unit: string; min: number; max: number; steps?: readonly number[] })
  | (Common<string> & { type: 'version' })
  | (Common<readonly string[]> & { type: 'list'; options: readonly string[] });

const ours = 'our default; common practice, no source';

/** Whether a kind of client follows a setting. */
export const obeys = (key: string, clientKind: ClientKind): boolean => !definitionOf(key)?.ignoredBy?.includes(clientKind);

/** The settings the evaluation uses. A new one is one entry here and its use. */
export const catalogue = {
  'picture.resolution': {
    subject: 'picture',
    label: 'Resolution',
    does: 'How the session’s size follows the screens',
    type: 'choice',
    options: ['native', 'follow', 'fixed'],
    default: 'native',
    merge: 'nearest',
    source: ours,
  },
  'picture.fixedSize': {
    subject: 'picture',
    label: 'Fixed size',
    does: 'Size of the session where the resolution is fixed',
    type: 'choice',
    options: ['1024x768', '1280x1024', '1920x1080', '2560x1440'],
    default: '1920x1080',
    merge: 'nearest',
    source: ours,
  },
  'picture.heldHeight': {
    subject: 'picture',
    label: 'Hold screens at',
    does: 'Largest height of a screen in the session; larger screens are scaled',
    type: 'number',
    unit: 'lines',
    min: 720,
    max: 4320,
    steps: [1080, 1440, 2160, 4320],
    default: 4320,
    merge: 'nearest',
    source: 'our default: no hold',
  },
  'picture.frameCap': {
    subject: 'picture',
    label: 'Frame rate',
    does: 'Most frames a second the host sends',
    type: 'number',
    unit: 'a second',
    min: 5,
    max: 120,
    steps: [15, 30, 60],
    default: 30,
    merge: 'nearest',
    source: ours,
  },
  'picture.codec': {
    subject: 'picture',
    label: 'Codec',
    does: 'How the picture is coded',
    type: 'choice',
    options: ['bitmap', 'progressive', 'h264', 'hevc', 'av1'],
    default: 'h264',
    merge: 'nearest',
    source: ours,
  },
  'picture.chroma': {
    subject: 'picture',
    label: 'Colour detail',
    does: '4:2:0 blurs thin coloured text, 4:4:4 keeps it',
    type: 'choice',
    options: ['4:2:0', '4:4:4'],
    default: '4:2:0',
    merge: 'nearest',
    source: ours,
  },
  'picture.qualityFloor': {
    subject: 'picture',
    label: 'Quality floor',
    does: 'Part of the wanted quality below which frames are dropped instead',
    type: 'number',
    unit: 'of 1',
    min: 0.3,
    max: 1,
    steps: [0.5, 0.7, 0.85, 1],
    default: 0.85,
    merge: 'nearest',
    source: 'our default; assumed',
  },
  'picture.colourDepth': {
    subject: 'picture',
    label: 'Colour depth',
    does: 'Bits for the colour of a pixel',
    type: 'number',
    unit: 'bit',
    min: 16,
    max: 32,
    steps: [16, 24, 32],
    default: 32,
    merge: 'nearest',
    source: ours,
  },
  'picture.hardwareEncode': {
    subject: 'picture',
    label: 'Encode on the card',
    does: 'Use the host’s hardware encoder where there is one',
    type: 'switch',
    default: true,
    merge: 'nearest',
    source: ours,
  },
  'picture.hardwareDecode': {
    subject: 'picture',
    label: 'Decode in hardware',
    does: 'Use the endpoint’s hardware decoder where there is one',
    type: 'switch',
    default: true,
    merge: 'nearest',
    source: ours,
  },
  'screens.use': {
    subject: 'screens',
    label: 'Screens used',
    does: 'Which screens the session spans',
    type: 'choice',
    options: ['one', 'all'],
    default: 'all',
    merge: 'nearest',
    source: ours,
  },
  'screens.most': {
    subject: 'screens',
    label: 'Screens',
    does: 'Most screens a session may span',
    type: 'number',
    unit: 'screens',
    min: 1,
    max: 8,
    steps: [1, 2, 3, 4],
    default: 4,
    merge: 'nearest',
    source: ours,
  },
  'screens.oneScale': {
    subject: 'screens',
    label: 'One scale',
    does: 'Give every screen of the session the same scale',
    type: 'switch',
    default: false,
    merge: 'nearest',
    source: ours,
  },
  'media.callOffload': {
    subject: 'media',
    label: 'Call sound',
    does: 'Handle calls on the endpoint instead of the host',
    type: 'switch',
    default: false,
    merge: 'nearest',
    source: ours,
    ignoredBy: ['browser'],
  },
  'media.videoOffload': {
    subject: 'media',
    label: 'Video',
    does: 'Play video on the endpoint instead of the host',
    type: 'switch',
    default: false,
    merge: 'nearest',
    source: ours,
    ignoredBy: ['browser'],
  },
  'media.cameraHeight': {
    subject: 'media',
    label: 'Camera picture',
    does: 'Height of the camera picture that is sent',
    type: 'number',
    unit: 'lines',
    min: 180,
    max: 1080,
    steps: [360, 720, 1080],
    default: 720,
    merge: 'nearest',
    source: ours,
  },
  'transport.repair': {
    subject: 'transport',
    label: 'Mending of loss',
    does: 'How the picture’s stream over UDP mends what the way loses: sends it again, brings repair data along, or shows the hole',
    type: 'choice',
    options: ['resend', 'forward', 'none'],
    default: 'resend',
    merge: 'nearest',
    source: ours,
  },
  'transport.repairShare': {
    subject: 'transport',
    label: 'Repair data',
    does: 'Repair data brought along with the picture, of its own size',
    type: 'number',
    unit: '%',
    min: 5,
    max: 100,
    steps: [5, 10, 20, 50],
    default: 20,
    merge: 'nearest',
    source: ours,
  },
  'transport.prefer': {
    subject: 'transport',
    label: 'Transport',
    does: 'What the picture travels over where both pass',
    type: 'choice',
    options: ['tcp', 'udp'],
    default: 'udp',
    merge: 'nearest',
    source: ours,
  },
  'transport.gatewayBypass': {
    subject: 'transport',
    label: 'Direct path inside',
    does: 'Go straight to the host from the inside network',
    type: 'switch',
    default: true,
    merge: 'nearest',
    source: ours,
  },
  'transport.capMbps': {
    subject: 'transport',
    label: 'Session cap',
    does: 'Most a session may take of the line',
    type: 'number',
    unit: 'Mbit/s',
    min: 0.5,
    max: 10_000,
    steps: [5, 10, 20, 10_000],
    default: 10_000,
    merge: 'nearest',
    source: 'our default: no cap',
  },
  'security.preSession': {
    subject: 'security',
    label: 'Pre-session sign-in',
    does: 'Authenticate before the desktop is drawn',
    type: 'switch',
    safer: true,
    default: false,
    merge: 'strictest',
    source: ours,
  },
  'security.tlsMinimum': {
    subject: 'security',
    label: 'Lowest TLS',
    does: 'Oldest TLS version the client accepts',
    type: 'choice',
    options: ['1.2', '1.3'],
    default: '1.2',
    merge: 'strictest',
    source: 'RFC 9325',
  },
  'security.certificateTrust': {
    subject: 'security',
    label: 'Untrusted certificate',
    does: 'What the client does with a certificate it does not trust',
    type: 'choice',
    options: ['warn', 'reject'],
    default: 'reject',
    merge: 'strictest',
    source: ours,
  },
  'security.secondFactorTimeoutS': {
    subject: 'security',
    label: 'Second factor waits',
    does: 'How long the second factor may take before it breaks off',
    type: 'number',
    unit: 's',
    min: 5,
    max: 600,
    steps: [10, 25, 60, 120],
    default: 60,
    merge: 'nearest',
    source: ours,
  },
  'security.personalDevices': {
    subject: 'security',
    label: 'Personal devices',
    does: 'What people may do on devices of their own',
    type: 'choice',
    options: ['allowed', 'limited', 'refused'],
    default: 'allowed',
    merge: 'strictest',
    source: ours,
  },
  'security.directorySwitch': {
    subject: 'security',
    label: 'Guests’ directory',
    does: 'The native client may switch to the directory of a guest’s organisation',
    type: 'switch',
    default: false,
    merge: 'nearest',
    source: ours,
  },
  'client.versionFloor': {
    subject: 'client',
    label: 'Client from',
    does: 'Lowest client version accepted',
    type: 'version',
    default: '0',
    merge: 'strictest',
    source: 'our default: none',
  },
  'session.singleSignOn': {
    subject: 'session',
    label: 'Single sign-on',
    does: 'The endpoint’s sign-in is taken on, no password is typed',
    type: 'switch',
    default: false,
    merge: 'nearest',
    source: ours,
  },
  'session.startOnly': {
    subject: 'session',
    label: 'Start the only resource',
    does: 'Start at once where a person has exactly one resource',
    type: 'switch',
    default: true,
    merge: 'nearest',
    source: ours,
  },
  'session.leftBehind': {
    subject: 'session',
    label: 'Sessions left behind',
    does: 'What happens at sign-in with sessions the person has elsewhere',
    type: 'choice',
    options: ['ask', 'most recent', 'none'],
    default: 'ask',
    merge: 'nearest',
    source: ours,
  },
  'session.entryLink': {
    subject: 'session',
    label: 'Entry link',
    does: 'People start from a link that goes straight to the resource',
    type: 'switch',
    default: false,
    merge: 'nearest',
    source: ours,
  },
  'redirection.devices': {
    subject: 'redirection',
    label: 'Devices let through',
    does: 'Kinds of device that may reach the session; a name with − in front removes one',
    type: 'list',
    options: ['headset', 'camera', 'card-reader', 'printer', 'scanner', 'storage'],
    default: ['headset', 'camera', 'printer'],
    merge: 'add',
    source: ours,
  },
} as const satisfies Record<string, SettingDefinition>;

/** The key of a setting, as it stands in files. */
export type SettingKey = keyof typeof catalogue;
/** The keys of all settings. */
export const settingKeys = Object.keys(catalogue) as SettingKey[];

/** Settings that some kind of client does not follow. */
export const ignorableKeys: readonly SettingKey[] = settingKeys.filter((key) => 'ignoredBy' in catalogue[key]);

type ValueOf<D> = D extends { type: 'switch' }
  ? boolean
  : D extends { type: 'number' }
    ? number
    : D extends { type: 'choice'; options: readonly (infer O)[] }
      ? O
      : D extends { type: 'version' }
        ? string
        : readonly string[];
/** The values in force for one crossing, typed by the catalogue. */
export type SettingValues = { -readonly [K in SettingKey]: ValueOf<(typeof catalogue)[K]> };

/** What a setting is; undefined for a key that is none. */
export const definitionOf = (key: string): SettingDefinition | undefined => (catalogue as Record<string, SettingDefinition>)[key];

/** What is wrong with a value for a setting, or null. */
export function faultOfValue(key: string, value: SettingValue): string | null {
  const definition = definitionOf(key);
  if (!definition) return `no setting is called ${key}`;
  switch (definition.type) {
    case 'switch':
      return typeof value === 'boolean' ? null : 'must be true or false';
    case 'choice':
      // a file’s bare 1.2 is a number, which is another thing than the word
      if (typeof value === 'number' && definition.options.includes(String(value))) return `must stand in quotes: '${value}'`;
      return typeof value === 'string' && definition.options.includes(value) ? null : `must be one of ${definition.options.join(', ')}`;
    case 'number':
      return typeof value === 'number' && value >= definition.min && value <= definition.max
        ? null
        : `must be ${definition.min} to ${definition.max} ${definition.unit}`;
    case 'version':
      if (typeof value === 'number') return `must stand in quotes: '${value}'`;
      return typeof value === 'string' && /^\d+([._]\d+)*[a-z]?$/.test(value) ? null : 'must be a version such as 4.12';
    case 'list':
      return Array.isArray(value) && value.every((item) => definition.options.includes(item.replace(/^-/, '')))
        ? null
        : `must be a list of ${definition.options.join(', ')}, each with - in front to remove it`;
  }
}
