import { describe, expect, test } from '@jest/globals';
import { dock, endpoint, home, office, person, setting } from '../../test/scenes.js';
import { doing, narrowed, settingTo } from '../change/index.js';
import { summariseCrossing, type CrossingFacts } from '../crossing/index.js';
import { CarriedTally, ImpactTally, LintTally, suggesting } from './index.js';

describe('what people carry in and out', () => {
  const columns = (...facts: CrossingFacts[]) => {
    const tally = new CarriedTally();
    for (const each of facts) tally.add(each);
    return tally.result();
  };
  const cell = (facts: CrossingFacts, what: string, way: 'in' | 'out') =>
    columns(facts)[0]?.cells.find((each) => each.what === what && each.way === way);

  test('a column for each sort of people on each sort of device, staff first', () => {
    const guest = person({ kind: 'guest' })(office);
    const own = endpoint({ ownership: 'personal' })(office);
    expect(columns(guest, office, home, own).map(({ kind, ownership, crossings }) => [kind, ownership, crossings])).toEqual([
      ['staff', 'managed', 2],
      ['staff', 'personal', 1],
      ['guest', 'managed', 1],
    ]);
  });

  test('each cell says the setting that decides it', () => {
    const open = setting('redirection.clipboard', 'both')(dock);
    expect(cell(open, 'Text by the clipboard', 'out')).toMatchObject({ goes: 1, by: 'redirection.clipboard', isData: true });
    expect(cell(setting('redirection.clipboard', 'in')(dock), 'Text by the clipboard', 'out')).toMatchObject({
      stays: 1,
      by: 'redirection.clipboard',
    });
    expect(cell(setting('redirection.clipboard', 'in')(dock), 'Text by the clipboard', 'in')).toMatchObject({ goes: 1 });
    expect(cell(setting('redirection.clipboardHolds', 'text only')(dock), 'Files by the clipboard', 'out')).toMatchObject({
      stays: 1,
      by: 'redirection.clipboardHolds',
    });
    const sticks = setting('redirection.devices', ['storage'])(dock);
    expect([
      cell(sticks, 'Files on drives and sticks', 'out'),
      cell(setting('redirection.drives', 'read only')(sticks), 'Files on drives and sticks', 'out'),
    ]).toMatchObject([{ goes: 1 }, { stays: 1, by: 'redirection.drives' }]);
    expect(cell(setting('redirection.drives', 'read only')(sticks), 'Files on drives and sticks', 'in')).toMatchObject({ goes: 1 });
    expect(cell(person({ kind: 'guest' })(sticks), 'Printing', 'out')).toMatchObject({ stays: 1, by: 'security.guests' });
    expect(cell(setting('security.screenshotBlock', true)(dock), 'Pictures taken by a program', 'out')).toMatchObject({ stays: 1 });
    // a browser keeps no program from taking its picture
    expect(
      cell(setting('security.screenshotBlock', true)(endpoint({ clientKind: 'browser' })(dock)), 'Pictures taken by a program', 'out'),
    ).toMatchObject({ goes: 1 });
  });

  test('where some may and some may not, both are counted, and what keeps it is told', () => {
    const [column] = columns(office, setting('redirection.clipboard', 'none')(home));
    expect(column?.cells.find(({ what, way }) => what === 'Text by the clipboard' && way === 'out')).toMatchObject({
      goes: 1,
      stays: 1,
      by: 'redirection.clipboard',
    });
  });
});

test('checks over many: put together by rule, with whom, and the remedies that mend most', () => {
  const tally = new LintTally();
  for (const facts of [office, home, dock]) tally.add(setting('picture.colourDepth', 16)(facts));
  tally.add(office);
  const [first] = tally.result();
  expect(first).toMatchObject({ rule: 'few colours with a codec that has them all', crossings: 3, people: 3 });
  expect(first?.examples).toHaveLength(3);
  expect(first?.remedies[0]?.change?.patches[0]).toMatchObject({ do: 'setting', key: 'picture.colourDepth' });
});

describe('a change at a nearer layer', () => {
  test('its settings go there; what is nearer stays, what is no setting is left out', () => {
    const wide = settingTo('picture.frameCap', 'organisation', '*', 60);
    const near = settingTo('picture.codec', 'person', 'P001', 'hevc');
    const elsewhere = settingTo('picture.codec', 'location', 'brack', 'hevc');
    const { change, left } = narrowed(
      office.reader.model,
      doing({ ...wide, was: 30 } as typeof wide, near, elsewhere, { do: 'remove', kind: 'host', id: 'x' }),
      { layer: 'location', target: 'wexcombe' },
    );
    expect(change.patches).toEqual([{ ...wide, layer: 'location', target: 'wexcombe' }, near]);
    expect(left).toBe(2);
  });

  test('a lock goes with it, onto what stands there or as a new entry; what changes an entry is told from where it stands', () => {
    const { model } = office.reader;
    const object = { id: 'wish', key: 'picture.frameCap', layer: 'organisation', target: '*', value: 60, locked: true };
    const wish = doing({ do: 'create', kind: 'setting', id: 'wish', object });
    expect(narrowed(model, wish, { layer: 'location', target: 'wexcombe' }).change.patches).toEqual([
      {
        do: 'create',
        kind: 'setting',
        id: 'picture.frameCap-location-wexcombe',
        object: { ...object, id: 'picture.frameCap-location-wexcombe', layer: 'location', target: 'wexcombe' },
      },
    ]);
    // the designers have an entry of their own
    expect(narrowed(model, wish, { layer: 'group', target: 'designers' }).change.patches).toEqual([
      { do: 'change', kind: 'setting', id: 'S004', set: { value: 60, locked: true } },
    ]);
    const longer = doing({ do: 'change', kind: 'setting', id: 'S001', set: { value: 90 } });
    expect(narrowed(model, longer, { layer: 'location', target: 'wexcombe' }).change.patches).toEqual([
      { do: 'setting', key: 'security.secondFactorTimeoutS', layer: 'location', target: 'wexcombe', value: 90 },
    ]);
    expect(narrowed(model, doing({ do: 'remove', kind: 'setting', id: 'S001' }), { layer: 'location', target: 'wexcombe' })).toMatchObject({
      left: 1,
    });
  });
});

describe('the impact of a setting', () => {
  const { reader } = office;
  const impactOf = (...patches: Parameters<typeof doing>) => {
    const tally = new ImpactTally(reader, doing(...patches), (ref) => {
      const facts = reader.read(ref);
      return facts ? summariseCrossing(facts) : undefined;
    });
    for (const ref of tally.crossings) tally.add(ref);
    return tally.result();
  };

  test('whom it shuts out is counted; how full lines become; devices that stop', () => {
    const shut = impactOf(settingTo('transport.wayIn', 'location', 'home', 'straight'));
    expect(shut.newlyBlocked).toBeGreaterThan(10);
    expect(shut.moves.every(({ to }) => to === 'blocked')).toBe(true);
    const wide = impactOf(settingTo('picture.frameCap', 'location', 'wexcombe', 60));
    expect(wide.newlyBlocked).toBe(0);
    expect(wide.lines).toMatchObject([{ location: 'wexcombe' }]);
    expect(wide.lines[0]!.after).toBeGreaterThan(wide.lines[0]!.before);
    const silent = impactOf(settingTo('redirection.devices', 'location', 'wexcombe', ['-printer']));
    expect(silent.beside?.devicesStop).toBeGreaterThan(10);
    expect(silent.beside?.devicesStart).toBe(0);
    // who is let in again gains most, and is told by name and place
    const open = impactOf(settingTo('security.secondFactorTimeoutS', 'location', 'mv-curlew', 60));
    expect(open.winners[0]).toMatchObject({ place: 'MV Curlew', from: 'blocked', text: 'opens' });
    expect([open.losers, open.newlyBlocked]).toEqual([[], 0]);
    expect(shut.winners).toEqual([]);
    const slow = impactOf(settingTo('signon.hostGets', 'location', 'wexcombe', 'nothing'));
    expect(slow.beside?.secondsMean).toBeGreaterThan(3);
  });
});

test('suggested is the entry that helps most and harms nobody, worked out on everybody it touches', () => {
  const { reader } = office;
  const kind = 'second factor’s time-out shorter than the way';
  const refs = reader.model.crossings.filter((ref) => summariseCrossing(reader.read(ref)!).kinds.includes(kind));
  expect(refs.length).toBeGreaterThan(3);
  const work = suggesting(reader, kind, refs);
  let step = work.next();
  while (!step.done) step = work.next();
  const [best] = step.value;
  expect(best).toMatchObject({ harmed: 0, text: 'security.secondFactorTimeoutS' });
  expect(best!.helped).toBeGreaterThanOrEqual(refs.length);
  const { change, helped } = best!;
  // counted again by hand
  const fresh = reader.after(change);
  const better = reader.model.crossings.filter((ref) => {
    const [before, after] = [summariseCrossing(reader.read(ref)!), summariseCrossing(fresh.read(ref)!)];
    return after.burden < before.burden - 0.5;
  });
  expect(better.length).toBe(helped);
});
