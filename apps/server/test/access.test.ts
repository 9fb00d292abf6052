import { describe, expect, test } from '@jest/globals';
import type {
  AcceptanceView,
  AccessPeople,
  AccessPersonView,
  Applied,
  ConsequenceView,
  CrossingRow,
  CrossingReadiness,
  GuestRow,
  PublicationRow,
  DraftView,
  RequirementSetView,
  WhyView,
} from '@underpass/contracts';
import { offeredAt } from '@underpass/standins';
import pg from 'pg';
import { holdVerdicts } from './server.js';
import { listed, withPortal } from './withPortal.js';

const { at, get, send, portalEstate, visitor } = withPortal(47_200, 4790);

describe('who sees what', () => {
  test('the portal’s own reading of the estate and the core agree for everybody', async () => {
    const estate = await portalEstate();
    for (const { id } of estate.person) {
      const view = await get<AccessPersonView>(`access/people/${id}`);
      const portals = estate.portal.flatMap((each) => offeredAt(estate, each.id, id).map(({ resource }) => resource.id));
      expect([id, view.after.map((each) => each.id).sort()]).toEqual([id, [...new Set(portals)].sort()]);
    }
  }, 60_000);

  test('somebody who misses a resource: why, the consequence, the mend, and the portal shows it; then taken back', async () => {
    const one = visitor();
    expect(listed((await one.signIn('main', 'P081')).text)).toEqual(['documents']);
    const why = await get<WhyView>('access/why?person=P081&resource=safety');
    expect(why).toMatchObject({ seen: false, step: 'publication attached to portal', object: 'safety', alsoOpensCount: 5 });
    expect(why.chain.map((node) => node?.name ?? null)).toEqual([
      'Petra Elstow',
      'Trainers',
      'Safety handbook',
      null,
      'Main portal',
      'Safety handbook',
    ]);
    const { body: paper } = await send<ConsequenceView>('POST', 'access/consequence', { change: why.change }, at.reader);
    expect([paper.people, paper.rows.every((row) => row.gains.join() === 'Safety handbook')]).toEqual([6, true]);
    expect(Object.values(paper.verdicts).reduce((sum, n) => sum + n, 0)).toBe(6);
    expect((await send('POST', 'changes', { change: why.change, summary: 'Attached' }, at.reader)).status).toBe(403);
    const { body: applied } = await send<{ changeId: string }>('POST', 'changes', {
      change: why.change,
      summary: 'Attached',
    });
    expect(listed((await one.open('/main/')).text)).toEqual(['documents', 'safety']);
    // on paper as it turns out
    const turned = { clear: 0, limited: 0, unknown: 0, blocked: 0 };
    const moved = new Set(paper.rows.map((row) => row.person.id));
    const { rows } = await get<{ rows: CrossingRow[] }>('crossings?search=safety&limit=200');
    for (const row of rows) if (moved.has(row.person) && row.resource === 'safety') turned[row.verdict]++;
    expect(turned).toEqual(paper.verdicts);
    const seen = await get<AccessPersonView>('access/people/P081');
    expect(seen.sightings[0]).toMatchObject({ outcome: 'list', saw: ['Document viewer', 'Safety handbook'], missing: [], extra: [] });
    expect((await send('POST', `changes/${applied.changeId}/undo`)).status).toBe(200);
    expect((await get<PublicationRow[]>('access/publications')).find((row) => row.id === 'safety')?.state).toBe('attached to no portal');
  }, 30_000);

  test('a person moved from one desktop to another keeps the old list until the next sign-in', async () => {
    const one = visitor();
    expect(listed((await one.signIn('main', 'P001')).text)).toContain('timetable');
    const change = { patches: [{ do: 'move', people: ['P001'], leave: 'timetable', join: 'posters' }] };
    const { body: paper } = await send<ConsequenceView>('POST', 'access/consequence', { change });
    expect(paper.rows).toMatchObject([{ gains: ['Poster studio'], loses: ['Timetable desktop'], at: 'next sign-in' }]);
    await send('POST', 'changes', { change, summary: 'Moved' });
    const view = await get<AccessPersonView>('access/people/P001');
    expect(view.now.map(({ id }) => id)).toContain('timetable');
    expect(view.after.map(({ id }) => id)).toEqual(expect.arrayContaining(['posters']));
    expect(view.after.map(({ id }) => id)).not.toContain('timetable');
    expect(listed((await visitor().signIn('main', 'P001')).text)).toContain('posters');
    expect((await get<AccessPersonView>('access/people/P001')).now.map(({ id }) => id)).toContain('posters');
    for (const wrong of [{ move: { leave: 'nothing-like-it' } }, { move: { people: ['P001'], join: 'posters' } }, { move: {} }, {}])
      expect((await send('POST', 'access/consequence', wrong)).status).toBeGreaterThanOrEqual(400);
  }, 30_000);

  test('somebody with two endpoints is one of those who get it, not two', async () => {
    const estate = await portalEstate();
    const { rows } = await get<{ rows: CrossingRow[] }>('crossings?verdict=blocked&limit=200');
    const own = rows.find((row) => estate.person.find(({ id }) => id === row.person)?.groups.length === 1) as CrossingRow;
    const { object: endpoint } = await get<{ object: { id: string } }>(`estate/endpoint/${own.endpoint}`);
    const { object: person } = await get<{ object: { groups: string[] } }>(`estate/person/${own.person}`);
    const second = { ...endpoint, id: 'second-desk', name: 'Second desk', person: own.person, users: [] };
    const { status, body } = await send<{ changeId: string }>('POST', 'changes', {
      change: {
        patches: [
          { do: 'create', kind: 'endpoint', id: second.id, object: second },
          { do: 'change', kind: 'person', id: own.person, set: { groups: [] } },
        ],
        hypotheses: [],
      },
      summary: 'A second desk',
    });
    expect(status).toBe(201);
    const { body: paper } = await send<ConsequenceView>('POST', 'access/consequence', {
      change: { patches: [{ do: 'move', people: [own.person], join: person.groups[0] }], hypotheses: [] },
    });
    expect(paper.verdicts.blocked).toBeGreaterThan(1);
    expect(paper.worst.map(({ people }) => people)).toEqual(paper.worst.map(() => 1));
    expect((await send('POST', `changes/${body.changeId}/undo`)).status).toBe(200);
  }, 30_000);

  test('groups in a loop are refused with the way round, in a form and in an import', async () => {
    const group = (await get<{ object: object }>('estate/group/watchkeepers')).object;
    const form = await send<{ detail: string }>('PUT', 'estate/group/watchkeepers', { ...group, memberOf: ['control'] });
    expect([form.status, form.body.detail]).toEqual([
      422,
      'group control: the groups go round in a loop: control in watchkeepers in control.',
    ]);
    const mixed = await send<{ detail: string }>('PUT', 'estate/publication/documents', {
      id: 'documents',
      name: 'Documents',
      kind: 'apps',
      pool: 'documents',
      resources: ['hull'],
      portals: [],
    });
    expect(mixed.body.detail).toMatch(/“hull” is of the pool design/);
  });
});

describe('guests and requirement sets', () => {
  test('the guest who misses one condition is kept out, told which, mended, and gets in', async () => {
    expect((await visitor().signIn('guests', 'P380')).status).toBe(403);
    const guests = await get<GuestRow[]>('access/guests');
    expect(guests.slice(0, 2).map(({ id, state }) => [id, state])).toEqual([
      ['P379', 'ended'],
      ['P381', 'ending soon'],
    ]);
    expect(guests.find(({ id }) => id === 'P380')).toMatchObject({ state: 'not accepted', unmet: ['Invitation accepted'] });
    const person = (await get<{ object: { guest: object } }>('estate/person/P380')).object;
    await send('PUT', 'estate/person/P380', { ...person, guest: { ...person.guest, invitation: 'accepted' } });
    expect(listed((await visitor().signIn('guests', 'P380')).text)).toEqual(['guest-plans', 'guest-reports']);
    expect((await get<GuestRow[]>('access/guests')).find(({ id }) => id === 'P380')?.unmet).toEqual([]);
  });

  test('a change tried on paper is tried on the conditions too, and a change of who sees what is kept for later', async () => {
    const crossing = encodeURIComponent('P382~OS-004~guest-plans');
    const conditions = async (patches: object[]) =>
      (await send<CrossingReadiness>('POST', `crossings/${crossing}/readiness`, { change: { patches } }, at.reader)).body.sets.find(
        ({ id }) => id === 'outside-guests',
      )!;
    const edit = (value: string) => [{ do: 'change', kind: 'person', id: 'P382', set: { 'guest.invitation': value } }];
    const stateOf = async (change: object[]) => (await conditions(change)).conditions.find(({ id }) => id === 'invitation')?.state;
    expect([await stateOf([]), await stateOf(edit('sent')), await stateOf([])]).toEqual(['met', 'not met', 'met']);
    expect((await conditions(edit('sent'))).readiness).toBe('not ready');
    const change = { patches: [{ do: 'move', leave: 'posters', join: 'timetable' }] };
    const { body: kept } = await send<DraftView>('POST', 'drafts', { name: 'Later', change });
    expect((await get<{ id: string }[]>('drafts', at.reader)).find(({ id }) => id === kept.id)).toMatchObject({
      name: 'Later',
      change: { ...change, hypotheses: [] },
      conflicts: [],
      done: false,
      createdBy: 'Ines Farrow',
    });
    expect((await send('POST', 'drafts', { name: 'Later', change }, at.reader)).status).toBe(403);
    // somebody wrote it since it was seen: it stays
    expect((await send('PUT', `drafts/${kept.id}`, { name: 'Later still', seen: kept.updatedAt })).status).toBe(200);
    expect((await send('DELETE', `drafts/${kept.id}?seen=${kept.updatedAt}`)).status).toBe(409);
    const written = (await get<DraftView[]>('drafts', at.reader)).find(({ id }) => id === kept.id);
    expect(written?.name).toBe('Later still');
    expect((await send('DELETE', `drafts/${kept.id}?seen=${written?.updatedAt}`)).status).toBe(204);
    expect((await get<DraftView[]>('drafts', at.reader)).some(({ id }) => id === kept.id)).toBe(false);
  });

  test('who sees what is told as it was written, before verdicts stand', async () => {
    const letCome = holdVerdicts(at.server);
    const patch = { do: 'move', people: ['P382'], leave: null, join: 'call-desk' };
    const body = { change: { patches: [patch], hypotheses: [] }, summary: 'To the call desk' };
    try {
      const { body: applied } = await at.server.call('changes', { method: 'POST', cookie: at.engineer, body, waits: false });
      expect((await get<AccessPersonView>('access/people/P382')).groups.map(({ id }) => id)).toContain('call-desk');
      const { rows } = await get<AccessPeople>('access/people?search=P382&limit=5');
      expect(rows[0]?.groups.map(({ id }) => id)).toContain('call-desk');
      expect(await get('access/why?person=P382&resource=call-desktop')).toMatchObject({ seen: true });
      await at.server.call(`changes/${(applied as Applied).changeId}/undo`, { method: 'POST', cookie: at.engineer, waits: false });
      expect(await get('access/why?person=P382&resource=call-desktop')).toMatchObject({ seen: false });
    } finally {
      await letCome();
    }
  });

  test('everything is withdrawn in one action and taken back in one', async () => {
    const { body } = await send<{ changeId: string }>('POST', 'access/guests/withdraw', { people: ['P379', 'P381'] });
    const reaches = async () =>
      (await get<GuestRow[]>('access/guests')).filter(({ id }) => ['P379', 'P381'].includes(id)).map((row) => row.reaches.length);
    expect(await reaches()).toEqual([0, 0]);
    await send('POST', `changes/${body.changeId}/undo`);
    expect(await reaches()).toEqual([2, 2]);
    expect((await send('POST', 'access/guests/withdraw', { people: ['P001'] })).status).toBe(422);
  });

  test('a set is tried as it is written, kept, and a shipped one comes back as it was', async () => {
    const sets = await get<RequirementSetView[]>('access/requirements');
    expect(sets.map(({ id, origin }) => [id, origin])).toEqual([
      ['app-file-sync', 'shipped'],
      ['kiosk-single-resource', 'shipped'],
      ['outside-guests', 'shipped'],
    ]);
    const kiosk = sets.find(({ id }) => id === 'kiosk-single-resource')!;
    expect([kiosk.ready, kiosk.notReady, kiosk.blockers.map(({ condition }) => condition)]).toEqual([2, 1, ['stays-on', 'one-resource']]);
    const tryIt = async (text: string) =>
      (
        await send<{ problems: { line: number; field: string; problem: string }[]; sets: RequirementSetView[] }>(
          'POST',
          'access/requirements/try',
          { text },
          at.reader,
        )
      ).body;
    const wrong = await tryIt(kiosk.text.replace('fact: endpoint.ownership', 'fact: endpoint.owner'));
    expect(wrong.problems[0]).toMatchObject({
      field: 'conditions.0.when.fact',
      problem: expect.stringContaining('endpoint has no field “owner”'),
    });
    expect((await tryIt(kiosk.text.replace('setting.session.startOnly', 'setting.session.startAll'))).problems[0]?.problem).toMatch(
      /no setting is called session.startAll/,
    );
    const own = kiosk.text.replaceAll('oneOf:', 'oneOf:').replace('effortH: 3', 'effortH: 5');
    await send('PUT', 'access/requirements', { text: own });
    expect((await get<RequirementSetView[]>('access/requirements')).find(({ id }) => id === kiosk.id)?.origin).toBe(
      'shipped, changed here',
    );
    // of one who saw it before that it stays
    const late = await send('DELETE', `access/requirements/${kiosk.id}?seen=${kiosk.version}`);
    expect([late.status, (late.body as { detail: string }).detail]).toEqual([409, expect.stringMatching(/was changed since you saw it/)]);
    const changed = (await get<RequirementSetView[]>('access/requirements')).find(({ id }) => id === kiosk.id);
    expect(changed?.origin).toBe('shipped, changed here');
    expect((await send('DELETE', `access/requirements/${kiosk.id}?seen=${changed?.version}`)).status).toBe(200);
    const back = (await get<RequirementSetView[]>('access/requirements')).find(({ id }) => id === kiosk.id);
    expect([back?.origin, back?.text]).toEqual(['shipped', kiosk.text]);
  });
});

describe('acceptance', () => {
  test('a run is started, testers look through the portal or are written down, differences are marked, and it is signed off', async () => {
    const started = (await send<AcceptanceView>('POST', 'access/acceptance')).body;
    const { run } = started;
    expect(run?.testers.map(({ person }) => person)).toEqual(started.testers.map(({ id }) => id));
    const [first, ...others] = run!.testers;
    expect((await send<{ detail: string }>('POST', `access/acceptance/${run!.id}/sign-off`)).body.detail).toMatch(
      /people have not looked yet/,
    );
    const estate = await portalEstate();
    const portals = estate.portal.filter(({ id }) => offeredAt(estate, id, first!.person).length > 0);
    for (const each of portals) await visitor().signIn(each.id, first!.person);
    for (const tester of others)
      await send('PUT', `access/acceptance/${run!.id}/testers/${tester.person}`, {
        saw: tester.expected.slice(1).map(({ id }) => id),
        note: 'looked together',
      });
    // what somebody else wrote down since is not written over unseen
    const [second] = others;
    const path = `access/acceptance/${run!.id}/testers/${second!.person}`;
    const other = await send<{ detail: string }>('PUT', path, { saw: [], seenAt: null });
    expect([other.status, other.body.detail]).toEqual([409, expect.stringContaining('by Ines Farrow')]);
    const looked = await get<AcceptanceView>('access/acceptance');
    const { at: seenAt, saw } = looked.run!.testers.find(({ person }) => person === second!.person)!;
    expect((await send('PUT', path, { saw, note: 'looked together', seenAt })).status).toBe(200);
    expect(looked.run!.testers[0]).toMatchObject({ source: 'reported', missing: [], extra: [] });
    for (const row of looked.run!.testers.slice(1)) expect([row.source, row.missing]).toEqual(['entered', [row.expected[0]]]);
    const signed = (await send<AcceptanceView>('POST', `access/acceptance/${run!.id}/sign-off`)).body.run!;
    expect([signed.signedOffBy, signed.testers.length]).toEqual(['Ines Farrow', run!.testers.length]);
    expect((await send('POST', `access/acceptance/${run!.id}/sign-off`)).status).toBe(409);
    // the next one stands first; the signed one can be read and not be written
    const next = (await send<AcceptanceView>('POST', 'access/acceptance')).body;
    expect(next.runs.map(({ id, looked, differ }) => [id, looked, differ])).toEqual([
      [next.run!.id, 0, 0],
      [run!.id, others.length + 1, others.length],
    ]);
    expect((await get<AcceptanceView>(`access/acceptance?run=${run!.id}`, at.reader)).run).toEqual(signed);
    expect((await send('PUT', `access/acceptance/${run!.id}/testers/${first!.person}`, { saw: [] })).status).toBe(409);
    expect((await send('GET', 'access/acceptance?run=00000000-0000-7000-8000-000000000000')).status).toBe(404);
  }, 30_000);

  test('what a tester says while the run is signed off is in it', async () => {
    const { run } = (await send<AcceptanceView>('POST', 'access/acceptance')).body;
    const [first, ...others] = run!.testers;
    for (const { person, expected } of run!.testers)
      await send('PUT', `access/acceptance/${run!.id}/testers/${person}`, { saw: expected.map(({ id }) => id) });
    // an entry that is being written
    const writer = new pg.Client({ connectionString: at.databaseUrl });
    await writer.connect();
    try {
      await writer.query('BEGIN');
      const of = 'FROM acceptance_run WHERE id = $1';
      const { testers } = (await writer.query<{ testers: { person: string }[] }>(`SELECT testers ${of} FOR UPDATE`, [run!.id])).rows[0]!;
      const told = testers.map((each) => (each.person === first!.person ? { ...each, saw: [], note: 'nothing at all' } : each));
      await writer.query('UPDATE acceptance_run SET testers = $2 WHERE id = $1', [run!.id, JSON.stringify(told)]);
      // more of them than there are connections: who waits must not keep the others from being answered
      const signed = Promise.all(Array.from({ length: 14 }, () => send<AcceptanceView>('POST', `access/acceptance/${run!.id}/sign-off`)));
      await new Promise((resolve) => setTimeout(resolve, 300));
      await writer.query('COMMIT');
      const answers = await signed;
      expect(answers.map(({ status }) => status).sort()).toEqual([200, ...Array.from({ length: 13 }, () => 409)]);
      const [kept, ...rest] = answers.find(({ status }) => status === 200)!.body.run!.testers;
      expect([kept!.note, kept!.saw, kept!.missing.length]).toEqual(['nothing at all', [], first!.expected.length]);
      expect(rest.map(({ missing }) => missing.length)).toEqual(others.map(() => 0));
    } finally {
      await writer.end();
    }
  });
});
