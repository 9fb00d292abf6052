import { expect, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import { bootCauses, causeTold, homeJoining, telephoneQuestions, type BootCause } from '../index.js';

const codes = Object.keys(bootCauses) as BootCause[];

test('the page of the telephone in docs is what is asked and said', () => {
  const questions = telephoneQuestions.map(({ id, ask, answers, with: allowed }) => {
    const rows = answers.map((answer) => {
      const stay = codes.filter((code) => allowed[code]?.includes(answer.id));
      return `| ${answer.text} | \`${answer.id}\` | ${stay.join(', ') || '–'} |`;
    });
    const any = codes.filter((code) => !allowed[code]);
    return `## ${ask}\n\`${id}\`\n\n| answer | | given with |\n| --- | --- | --- |\n${rows.join('\n')}\n\n${any.length === 0 ? 'Every cause is named.' : `Any answer may be given with ${any.length === codes.length ? 'every cause' : any.join(', ')}.`}\n`;
  });
  const led = ([true, false] as const).map((thin) => {
    const steps = homeJoining(thin).map(
      ({ say, stuck }, i) => `${i + 1}. ${say}\n${stuck.map(({ what, help }) => `   - *${what}*: ${help}`).join('\n')}`,
    );
    return `## Joining the Wi-Fi of a home: ${thin ? 'a thin client' : 'a computer or telephone'}\n${steps.join('\n')}\n`;
  });
  const text = `# At the telephone\nWhat is asked of somebody beside a device that does not start, and with which causes each answer is given; what leaves least to look among is asked first (written by the tests: \`WRITE=yes npm test unit\`). For whoever has to help without a screen: print it.\n\n${[...questions, ...led].join('\n')}`;
  const page = new URL('../../../../../docs/bringup-telephone.md', import.meta.url);
  if (process.env.WRITE) writeFileSync(page, text);
  expect(readFileSync(page, 'utf8')).toBe(text);
});

test('what a cause is, in the words of a place; what is not known of it is left open', () => {
  const withWords = codes.filter((code) => /\{\w+\}/.test(bootCauses[code].says + bootCauses[code].mend));
  expect(withWords.length).toBeGreaterThan(5);
  for (const code of codes) {
    const { says, mend, shows } = bootCauses[code];
    const names = [...`${says} ${mend}`.matchAll(/\{(\w+)\}/g)].map(([, name]) => name as string);
    const words = Object.fromEntries(names.map((name) => [name, `the ${name}`]));
    const filled = (text: string, by: (name: string) => string) => text.replace(/\{(\w+)\}/g, (_, name: string) => by(name));
    if (code !== 'wifi security differs')
      expect(causeTold(code, words)).toEqual({
        says: filled(says, (name) => `the ${name}`),
        mend: filled(mend, (name) => `the ${name}`),
        shows,
      });
    expect(causeTold(code, {})).toEqual({ says: filled(says, () => '…'), mend: filled(mend, () => '…'), shows });
  }
  // of the security its kind is told in the place of the name, and where it is not known nothing
  const { says } = bootCauses['wifi security differs'];
  expect(says).toContain('{network}');
  const filled = (network: string) => says.replace('{network}', network).replace(/\{\w+\}/g, '…');
  expect(causeTold('wifi security differs', { network: 'the name', security: 'WPA3' }).says).toBe(filled('WPA3'));
  expect(causeTold('wifi security differs', { network: 'the name' }).says).toBe(filled('…'));
});
