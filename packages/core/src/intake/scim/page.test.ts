import { expect, test } from '@jest/globals';
import { readFileSync, writeFileSync } from 'node:fs';
import { commonAttributes, groupKind, userKind, type ScimAttribute } from './schema.js';

/** How an attribute is, where that is not what RFC 7643 2.2 has where nothing is said. */
function marks({
  multiValued,
  required,
  caseExact,
  mutability,
  returned,
  uniqueness,
  canonicalValues,
  referenceTypes,
}: ScimAttribute): string {
  return [
    ...(multiValued ? ['several'] : []),
    ...(required ? ['has to be there'] : []),
    ...(caseExact ? ['case counts'] : []),
    ...(mutability ? [mutability] : []),
    ...(returned ? [`returned: ${returned}`] : []),
    ...(uniqueness ? [`unique: ${uniqueness}`] : []),
    ...(canonicalValues ? [`usually ${canonicalValues.join(', ')}`] : []),
    ...(referenceTypes ? [`leads to ${referenceTypes.join(', ')}`] : []),
  ].join('; ');
}
const rows = (list: readonly ScimAttribute[], before = ''): string[] =>
  list.flatMap((each) => [
    `| ${before}${each.name} | ${each.type} | ${each.description} | ${marks(each)} |`,
    ...rows(each.subAttributes ?? [], `${before}${each.name}.`),
  ]);
const table = (title: string, about: string, list: readonly ScimAttribute[]) =>
  [`## ${title}`, about, '', '| attribute | type | what | how |', '| --- | --- | --- | --- |', ...rows(list), ''].join('\n');

test('the page of attributes in docs is what the schemas say', () => {
  const kinds = [userKind, groupKind].flatMap(({ name, endpoint, schema, extensions }) => [
    table(`${name}, at ${endpoint}`, `${schema.description}: \`${schema.name}\`, \`${schema.id}\`.`, schema.attributes),
    ...extensions.map(({ id, name: of, description, attributes }) =>
      table(`${of}, beside ${name}`, `${description}: \`${id}\`.`, attributes),
    ),
  ]);
  const page = [
    '# Attributes of directories that send',
    '',
    'What `/Schemas` tells [RFC 7643 2, 3, 4], written from the code by its tests (`WRITE=yes npm test unit`). What another attribute says is left out.',
    'How an attribute is stands here where it is not as the RFC has it by default (one value, not required, any case, readWrite, returned by default).',
    '',
    table('Every resource', 'Attributes that stand in no schema.', commonAttributes),
    ...kinds,
  ].join('\n');
  const file = new URL('../../../../../docs/scim-attributes.md', import.meta.url);
  if (process.env.WRITE === 'yes') writeFileSync(file, page);
  expect(readFileSync(file, 'utf8')).toBe(page);
});
