// Kills of the server and of its database while edits are written: what was acknowledged must be there afterwards.
import { spawnSync } from 'node:child_process';
import { seeded } from './seeded.mjs';

const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** @returns {Promise<{kills: number, acknowledged: number, lost: string[]}>} */
export async function attackWithKills(instance, cluster, { kills, killDatabase }) {
  const random = seeded(11);
  const acknowledged = new Map();
  let n = 0;
  let total = 0;
  const lost = [];
  const hosts = (await instance.call('estate/host?limit=12')).body.rows.map(({ id }) => id);
  for (let kill = 0; kill < kills; kill++) {
    let on = true;
    const writers = [0, 1, 2].map(async (w) => {
      while (on) {
        const id = hosts[(w * 4 + (n % 4)) % hosts.length];
        const value = `Name ${++n}`;
        // of an edit that got no answer nobody knows whether it stands: either is right
        const earlier = acknowledged.get(id);
        const known = earlier ?? { sure: null, maybe: new Set() };
        acknowledged.set(id, known);
        known.maybe.add(value);
        const answer = await instance
          .call('changes', 'POST', { change: { patches: [{ do: 'change', kind: 'host', id, set: { name: value } }] }, summary: 'kill' })
          .catch(() => null);
        if (answer?.status === 201) {
          acknowledged.set(id, { sure: value, maybe: new Set() });
          total++;
        } else if (!answer) return;
      }
    });
    await wait(150 + random.below(700));
    if (killDatabase && kill % 5 === 4) {
      cluster.kill();
      on = false;
      await Promise.all(writers);
      await cluster.restart();
      for (let i = 0; i < 100 && (await instance.call('ready').catch(() => ({ status: 0 }))).status !== 200; i++) await wait(50);
    } else {
      await instance.kill();
      on = false;
      await Promise.all(writers);
      await instance.start();
    }
    for (const [id, { sure, maybe }] of acknowledged) {
      const { body } = await instance.call(`estate/host/${id}`);
      const name = body.object?.name;
      if (sure !== null && name !== sure && !maybe.has(name)) lost.push(`${id}: acknowledged ${sure}, there is ${name}`);
      acknowledged.set(id, { sure: name, maybe: new Set() });
    }
  }
  return { kills, acknowledged: total, lost };
}

/** The process of a cluster, killed as a machine that fails would. */
export function killPostgres(data) {
  spawnSync('sh', ['-c', `kill -9 $(head -1 '${data}/postmaster.pid')`]);
}
