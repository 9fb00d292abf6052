import { expect, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import type { SettingValue } from '@underpass/contracts';
import { definitionOf, settingKeys, settingSubjects, subjectOfSetting, type SettingDefinition } from '../index.js';

const cell = (text: string): string => text.replaceAll('|', '\\|');
const told = (value: SettingValue): string =>
  Array.isArray(value) ? value.join(', ') || 'nothing' : typeof value === 'boolean' ? (value ? 'on' : 'off') : String(value) || 'empty';

/** What a setting may be, in words. */
function takes(definition: SettingDefinition): string {
  switch (definition.type) {
    case 'switch':
      return definition.merge === 'strictest' ? `on or off; ${(definition.safer ?? true) ? 'on' : 'off'} is the safer` : 'on or off';
    case 'choice':
      return definition.options.join(definition.merge === 'strictest' ? ' < ' : ', ');
    case 'number':
      return `${definition.min} to ${definition.max} ${definition.unit}${definition.steps ? ` (offered: ${definition.steps.join(', ')})` : ''}`;
    case 'text':
      return definition.words.length ? `text; filled in: ${definition.words.map((word) => `{${word}}`).join(', ')}` : 'text';
    case 'version':
      return definition.ceiling ? 'a version, as a ceiling; 0 is none' : 'a version';
    case 'list':
      return `of ${definition.options.join(', ')}`;
  }
}
const together = { nearest: 'the nearest', strictest: 'the strictest', add: 'all together' };

test('the list of settings in docs is what the catalogue says', () => {
  const parts = settingSubjects.map((subject) => {
    const rows = settingKeys
      .filter((key) => subjectOfSetting(key) === subject)
      .map((key) => {
        const definition = definitionOf(key) as SettingDefinition;
        const ignored = [...(definition.ignoredBy ?? []).map((kind) => `${kind} client`), ...(definition.ignoredOn ?? [])];
        return `| ${[
          `**${definition.label}**<br>\`${key}\``,
          definition.does,
          takes(definition),
          told(definition.default as SettingValue),
          together[definition.merge],
          ignored.join(', ') || '–',
          (definition.symptoms ?? []).join('; ') || '–',
          definition.source,
        ]
          .map(cell)
          .join(' | ')} |`;
      });
    return `## ${subject}\n| setting | does | takes | default | of several layers | not followed by | found by | default from |\n| --- | --- | --- | --- | --- | --- | --- | --- |\n${rows.join('\n')}\n`;
  });
  const text = `# Every setting\nWhat each of the ${settingKeys.length} settings takes and what holds where nobody says anything (written by the tests: \`WRITE=yes npm test unit\`). How layers come to one value: [settings](settings.md).\n\n${parts.join('\n')}`;
  const page = new URL('../../../../../docs/settings-list.md', import.meta.url);
  if (process.env.WRITE) writeFileSync(page, text);
  expect(readFileSync(page, 'utf8')).toBe(text);
});
