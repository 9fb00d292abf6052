import type { AssumedFigure } from '@underpass/core';
import { useWatch } from 'react-hook-form';
import { Wide } from '../ui/Wide.js';
import { FigureField } from './FigureField.js';
import type { AssumedForm } from './useAssumed.js';

/** Figures that every kind of line has, by the last part of their key, as they stand above their column. */
const columns: readonly [field: string, words: string][] = [
  ['delayLowMs', 'Round trip, at least ms'],
  ['delayHighMs', 'at most ms'],
  ['spreadHighMs', 'Varies by, at most ms'],
  ['lossHighPercent', 'Loss not ruled out, %'],
  ['framingShare', 'Goes to framing, of 1'],
  ['eveningShare', 'Left in the evening, of 1'],
  ['eveningDelayMs', 'Waits then, ms'],
];

/** What is taken of each kind of line, a kind a row. */
export function LinesTable({ figures, form }: { figures: readonly AssumedFigure[]; form: AssumedForm }) {
  const byKey = new Map(figures.map((each) => [each.key, each]));
  const kinds = [...new Set(figures.map(({ key }) => key.split('/')).flatMap((parts) => (parts.length === 3 ? [parts[1] as string] : [])))];
  return (
    <Wide label="Lines by kind">
      <table className="w-full border-collapse mt-1.5 min-w-[840px]">
        <thead>
          <tr className="text-ink-3 border-b-[1.5px] border-ink align-bottom">
            <th scope="col" className="font-normal text-left py-1">
              Kind of line
            </th>
            {columns.map(([field, words]) => (
              <th key={field} scope="col" className="font-normal text-left w-[92px] leading-[15px] pb-1 pr-2">
                {words}
              </th>
            ))}
            <th scope="col" className="w-[92px]">
              <span className="sr-only">As shipped</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {kinds.map((kind) => (
            <Row key={kind} kind={kind} own={columns.flatMap(([field]) => byKey.get(`line/${kind}/${field}`) ?? [])} form={form} />
          ))}
        </tbody>
      </table>
      <p className="text-ink-3 mt-1">Common practice, no source. Bold: another figure in this estate.</p>
    </Wide>
  );
}

function Row({ kind, own, form }: { kind: string; own: readonly AssumedFigure[]; form: AssumedForm }) {
  const texts = useWatch({ control: form.control, name: own.map(({ key }) => key) });
  const others = own.filter(({ value }, i) => Number(texts[i]) !== value);
  const [name = kind] = (own[0]?.words ?? kind).split(':');
  return (
    <tr className="border-b border-rule align-top">
      <th scope="row" className={`text-left pt-[7px] pb-1 pr-3 ${others.length ? 'font-bold' : 'font-normal'}`}>
        {name}
      </th>
      {own.map((each) => (
        <td key={each.key} className="py-0.5" title={`shipped: ${each.value} ${each.unit}; ${each.source}`}>
          <FigureField name={each.key} label={`${each.words}, ${each.unit}`} unit="" form={form} />
        </td>
      ))}
      <td>
        {others.length > 0 && form.canEdit && (
          <button
            type="button"
            className="btn btn-small btn-quiet"
            aria-label={`${name}: as shipped`}
            title={others.map(({ words, value, unit }) => `${words}: ${value} ${unit}`).join('\n')}
            onClick={() => others.forEach(({ key, value }) => form.type(key, String(value)))}
          >
            as shipped
          </button>
        )}
      </td>
    </tr>
  );
}
