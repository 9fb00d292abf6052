import type { Peripheral } from '@underpass/contracts';

/** What a field check saw plugged in, counted, in words. @example ["camera", "microphone", "microphone"] is "1 camera, 2 microphones" */
export function seenText(plugged: readonly string[]): string {
  const counts = (['camera', 'microphone', 'speaker'] as const).flatMap((word) => {
    const n = plugged.filter((each) => each === word).length;
    return n === 0 ? [] : [`${n} ${n === 1 ? word : `${word}s`}`];
  });
  const devices = plugged.filter((each) => each.startsWith('usb ') || each.startsWith('hid ')).length;
  return [...counts, ...(devices > 0 ? [`${devices} ${devices === 1 ? 'device' : 'devices'} by code`] : [])].join(', ');
}

/** Devices that a field check was let see, as peripherals of an endpoint; those the estate names there already are left out. */
export function seenDevices(plugged: readonly string[], endpoint: string, known: readonly Peripheral[]): Peripheral[] {
  const found = new Map<string, Peripheral>();
  for (const text of plugged) {
    const [, bus, vid, pid, codes = ''] = /^(usb|hid) ([0-9a-f]{4}):([0-9a-f]{4})((?: [0-9a-f/]{8})*)$/.exec(text) ?? [];
    if (!vid || !pid || known.some((each) => each.vid === vid && each.pid === pid)) continue;
    const id = `seen-${vid}-${pid}`;
    // a list of its codes says more than that it is there
    if (found.has(id) && bus === 'hid') continue;
    const interfaces = bus === 'hid' ? ['03/00/00'] : codes.trim().split(' ').filter(Boolean);
    found.set(id, { id, name: 'Seen by the field check', endpoint, vid, pid, class: '00', interfaces });
  }
  return [...found.values()];
}
