// Attacks over the network on one instance: each says what it did; others are watched meanwhile.
import { randomBytes } from 'node:crypto';
import { anything, seeded } from './seeded.mjs';

const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const upgrade = (port, token, more = '') =>
  `GET /api/check/${token}/ws HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\n${more}Connection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: ${randomBytes(16).toString('base64')}\r\n\r\n`;

/** Sends bytes and reads the first line of the answer. */
async function ask(instance, bytes, forMs = 2000) {
  const socket = await instance.socket();
  let answer = '';
  socket.on('data', (part) => (answer += part));
  socket.write(bytes);
  for (let i = 0; i < forMs / 20 && !answer.includes('\r\n') && !socket.destroyed; i++) await wait(20);
  socket.destroy();
  return answer.split('\r\n')[0];
}

export const attacks = {
  'upgrades with an origin that is no address': async (instance) => {
    for (const origin of ['null', 'http://', '::', '', 'x'.repeat(4000)])
      await ask(instance, upgrade(instance.port, 'A'.repeat(32), `Origin: ${origin}\r\n`), 300);
    return '5 origins';
  },
  'upgrades torn at once': async (instance, { many }) => {
    for (let i = 0; i < many; i++) {
      const socket = await instance.socket();
      socket.write(upgrade(instance.port, randomBytes(24).toString('base64url')));
      if (i % 2) await wait(i % 7);
      socket.resetAndDestroy();
    }
    return `${many} torn`;
  },
  '1 500 guesses at tokens by upgrade': async (instance) => {
    let judged = 0;
    for (let i = 0; i < 1500; i++)
      if ((await ask(instance, upgrade(instance.port, randomBytes(24).toString('base64url')), 400)).includes('404')) judged++;
    return `${judged} judged, ${1500 - judged} turned away`;
  },
  'four bodies of 79 MB without a sign-in': async (instance) => {
    const body = `[${'[],'.repeat(26_000_000)}[]]`;
    const answers = await Promise.all(
      [1, 2, 3, 4].map(() =>
        instance
          .call('estate/import', 'POST', body, { cookie: '', raw: true })
          .then(({ status }) => status)
          .catch(() => 'cut'),
      ),
    );
    return `answers ${answers.join(', ')}`;
  },
  'four bodies of 79 MB with one': async (instance) => {
    const body = `[${'[],'.repeat(26_000_000)}[]]`;
    const answers = await Promise.all(
      [1, 2, 3, 4].map(() =>
        instance
          .call('estate/import', 'POST', body, { raw: true })
          .then(({ status }) => status)
          .catch(() => 'cut'),
      ),
    );
    return `answers ${answers.join(', ')}`;
  },
  'a file of 60 MB of YAML keys': async (instance) => {
    const keys = `- id: x\n${Array.from({ length: 4_000_000 }, (_, i) => `  k${i}: 1`).join('\n')}\n`;
    const started = await instance.call('estate/import', 'POST', { files: { 'pools.yaml': keys.slice(0, 59_000_000) }, apply: true });
    if (started.status !== 202) return `answer ${started.status}`;
    for (;;) {
      const { body } = await instance.call(`estate/import/${started.body.id}`);
      if (body.state !== 'running') return `${body.state}: ${String(body.message).slice(0, 80)}`;
      await wait(200);
    }
  },
  'YAML of 18 000 keys, wide aliases': async (instance) => {
    const texts = [
      `- id: x\n${Array.from({ length: 18_000 }, (_, i) => `  k${i}: 1`).join('\n')}\n`.slice(0, 199_000),
      `- &a [${'x,'.repeat(9000)}]\n${Array.from({ length: 9000 }, () => '- *a').join('\n')}`,
      `${'- '.repeat(60_000)}x`,
      '['.repeat(90_000),
    ];
    const answers = [];
    for (const text of texts) answers.push((await instance.call('access/requirements/try', 'POST', { text })).status);
    return `answers ${answers.join(', ')}`;
  },
  'impact with a name of 800 kB': async (instance) => {
    const { status } = await instance.call('impact', 'POST', {
      change: { patches: [{ do: 'change', kind: 'host', id: 'H', set: { ['x'.repeat(800_000)]: 1 } }] },
    });
    return `answer ${status}`;
  },
  'a measurement in each of 2 100 months': async (instance) => {
    const rows = Array.from(
      { length: 2100 },
      (_, i) =>
        `m${i},${String(1 + Math.floor(i / 12)).padStart(4, '0')}-${String((i % 12) + 1).padStart(2, '0')}-01T00:00:00Z,x,ping,desk,head-office,12`,
    );
    const started = await instance.call('estate/import', 'POST', {
      files: { 'measurements.csv': `id,at,by,method,vantage,location,figures.downMbps\n${rows.join('\n')}\n` },
      apply: true,
    });
    let job = started.body;
    while (job.state === 'running') {
      await wait(100);
      job = (await instance.call(`estate/import/${job.id}`)).body;
    }
    const edit = await instance.call('changes', 'POST', {
      change: { patches: [{ do: 'change', kind: 'region', id: 'far', set: { name: 'Still written' } }] },
      summary: 'x',
    });
    const seen = (await instance.call('estate/region/far')).body.object?.name === 'Still written';
    return `import ${job.state}, an edit afterwards ${edit.status} and ${seen ? 'there' : 'NOT THERE'}`;
  },
  'junk frames and 200 field checks': async (instance) => {
    const { WebSocket } = await import('ws');
    const links = [];
    for (let i = 0; i < 40; i++)
      links.push((await instance.call('check-links', 'POST', { location: 'wexcombe' })).body.url.split('/check/')[1]);
    const sockets = [];
    for (let i = 0; i < 200; i++) {
      const socket = new WebSocket(`ws://127.0.0.1:${instance.port}/api/check/${links[i % 40]}/ws`);
      socket.on('error', () => undefined);
      sockets.push(socket);
      await new Promise((resolve) => socket.once('open', resolve).once('error', resolve).once('unexpected-response', resolve));
      if (socket.readyState === 1) socket.send('{"type":"start"}', () => undefined);
    }
    const random = seeded(5);
    for (const [i, socket] of sockets.entries())
      for (let n = 0; n < 20; n++)
        if (socket.readyState === 1)
          socket.send(
            i % 3 ? JSON.stringify({ type: 'figures', figures: anything(random), done: false }) : '{"type":"ping","n":1}',
            () => undefined,
          );
    await wait(1500);
    const open = sockets.filter((socket) => socket.readyState === 1).length;
    for (const socket of sockets) socket.terminate();
    await wait(300);
    const page = new WebSocket(`ws://127.0.0.1:${instance.port}/api/check/${links[0]}/ws`);
    const goes = await new Promise((resolve) => {
      page.on('open', () => page.send('{"type":"start"}'));
      page.on('message', (data) => String(data).includes('"go"') && resolve(true));
      page.on('error', () => resolve(false));
      setTimeout(() => resolve(false), 3000);
    });
    page.terminate();
    return `${open} of 200 still open, the next one ${goes ? 'goes at once' : 'DOES NOT GO'}`;
  },
  'half and slow requests': async (instance, { many }) => {
    const sockets = [];
    for (let i = 0; i < many; i++) {
      const socket = await instance.socket();
      socket.write(
        i % 2
          ? 'GET /api/session HTT'
          : `POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: 4000\r\n\r\n{`,
      );
      sockets.push(socket);
    }
    await wait(3000);
    for (const socket of sockets) socket.destroy();
    return `${many} held`;
  },
  'nonsense at every route': async (instance, { rounds }) => {
    const { paths } = (await instance.call('docs-json')).body;
    const routes = Object.entries(paths).flatMap(([path, methods]) =>
      Object.keys(methods).map((method) => [method.toUpperCase(), path.replace('/api/', '')]),
    );
    const words = ['%00', '%F0%9F%98%80', "'%3B--", '..%2F..%2Fetc', 'P001', '019234aa-0000-7000-8000-000000000000', 'a'.repeat(300)];
    let asked = 0;
    const bad = [];
    for (let round = 0; round < rounds; round++)
      for (const [n, [method, path]] of routes.entries()) {
        if (/^(session$|events|account|session\/provider)/.test(path) || (path.startsWith('/') && !path.startsWith('/go'))) continue;
        const random = seeded(round * 1000 + n);
        const address = `${path.replaceAll(/\{[^}]+\}/g, () => random.pick(words))}?limit=${random.pick(words)}&search=${random.pick(words)}`;
        const { status } = await instance.call(
          address.replace(/^\//, '../'),
          method,
          ['GET', 'DELETE'].includes(method) ? undefined : anything(random),
        );
        asked++;
        if (status >= 500 && !(status === 503 && path.startsWith('session'))) bad.push(`${method} ${address.slice(0, 80)} ${status}`);
      }
    return { text: `${asked} requests, ${bad.length} answered as a fault of the server`, bad };
  },
};
