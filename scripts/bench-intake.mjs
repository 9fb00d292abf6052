// What it takes to bring an estate in from elsewhere, and how long anybody else waits meanwhile: a list of 50 000 rows, and a directory of
// 20 000 people and 2 000 groups read from a real directory server.
import { setTimeout as wait } from 'node:timers/promises';
import { directory } from '@underpass/standins';
import { long, watched } from './bench-large.mjs';

const seconds = (ms) => (ms / 1000).toFixed(1);

/** A list as somebody has it: other words for the columns, places by their names. */
function deviceList(rows) {
  const head = [
    'Gerätename',
    'Inventar-Nr.',
    'Gerätetyp',
    'Standort',
    'RAM (GB)',
    'Eigentum',
    'Plattform',
    'Prozessor',
    'Zugangsart',
    'Auflösung',
  ];
  const row = (i) =>
    [
      `Gerät ${i}`,
      `L-${i}`,
      ['Thin Client', 'Notebook'][i % 2],
      `Halle ${i % 100}`,
      [4, 8, 16][i % 3],
      i % 7 ? 'Firma' : 'privat',
      ['thin', 'desktop'][i % 2],
      'x64',
      ['eingebaut', 'Browser'][i % 2],
      '1920x1080',
    ].join(';');
  return `\uFEFF${[head.join(';'), ...Array.from({ length: rows }, (_, i) => row(i))].join('\r\n')}\r\n`;
}

export async function benchLists(call, send, tell, rows = 50_000) {
  const started = performance.now();
  const look = await send(`intake/lists?name=devices.csv`, deviceList(rows));
  const looked = performance.now() - started;
  const map = { ...look.map, make: { ...look.map.make, location: {} } };
  for (const [what, name] of [
    ['check', 'checked'],
    ['take', 'taken in, all new'],
    ['check', 'checked again, nothing new'],
  ]) {
    const from = performance.now();
    const { result, longestMs } = await watched(call, () =>
      long(call, `intake/lists/${look.id}/${what}`, { map, mends: {}, source: 'Bench' }),
    );
    tell(
      `a list of ${rows} rows × 10 columns ${name}, s; others wait at the longest, ms`,
      `${seconds(performance.now() - from)}; ${Math.round(longestMs)} (${result.added} new, ${result.unchanged} as they were, ${result.rejectedTotal} not taken)`,
      what === 'check' ? '20; 100' : '; 100',
    );
  }
  tell(`a list of ${rows} rows: sent, read and its columns recognised, s`, seconds(looked));
}

export async function benchDirectory(call, tell, people = 20_000, groups = 2000) {
  if (!directory.hasSlapd) return tell('a directory: there is no directory server to read', '');
  const { base, dnOf, dnOfGroup, group, person, reader, startSlapd, unit } = directory;
  const slapd = await startSlapd();
  try {
    const places = Array.from({ length: 40 }, (_, i) => `Pier ${i}`);
    const at = (i) => places[i % places.length];
    const inGroup = (g) => Array.from({ length: 30 }, (_, k) => (g * 37 + k * 611) % people);
    await slapd.load(
      [
        ...['Groups', ...places].map(unit),
        ...Array.from({ length: people }, (_, i) => person(`bd${i}`, `Person ${i} Bench`, at(i))),
        ...Array.from({ length: groups }, (_, g) =>
          group(
            `Team ${g}`,
            [...new Set(inGroup(g))]
              .map((i) => dnOf(`bd${i}`, at(i)))
              .concat(g % 4 === 0 && g + 1 < groups ? [dnOfGroup(`Team ${g + 1}`)] : []),
          ),
        ),
      ].join('\n'),
    );
    const settings = { address: slapd.secure, base, bindDn: reader.dn, certificates: slapd.authority, makePlaces: true };
    const feed = await call('intake/ldap', 'POST', { name: 'Bench', settings, secret: reader.secret });
    for (const name of ['read for the first time', 'read again, nothing new']) {
      const from = performance.now();
      const { result, longestMs } = await watched(call, () => long(call, `intake/ldap/${feed.id}/run`, { allow: false }));
      tell(
        `a directory of ${people} people and ${groups} nested groups ${name}, s; others wait at the longest, ms`,
        `${seconds(performance.now() - from)}; ${Math.round(longestMs)} (${result.state}, ${result.added} new)`,
        '60; 100',
      );
      await wait(3000);
    }
  } finally {
    await slapd.stop();
  }
}
