import type { AssumedFigure } from '@underpass/core';
import { useWatch } from 'react-hook-form';
import { Wide } from '../ui/Wide.js';
import { FigureField } from './FigureField.js';
import type { AssumedForm } from './useAssumed.js';

/** Figures of a subject: as they are here, as they are shipped, and where they are from. */
export function AssumedTable({ figures, form }: { figures: readonly AssumedFigure[]; form: AssumedForm }) {
  return (
    <Wide label={`${figures[0]?.subject ?? ''}: figures`}>
      <table className="w-full border-collapse mt-1.5 min-w-[640px]">
        <thead>
          <tr className="text-ink-3 border-b-[1.5px] border-ink">
            <th scope="col" className="font-normal text-left py-1">
              Figure
            </th>
            <th scope="col" className="font-normal text-left w-[210px]">
              Here
            </th>
            <th scope="col" className="font-normal text-right w-[90px] pr-6">
              Shipped
            </th>
            <th scope="col" className="font-normal text-left w-[190px]">
              Source
            </th>
          </tr>
        </thead>
        <tbody>
          {figures.map((figure) => (
            <Row key={figure.key} figure={figure} form={form} />
          ))}
        </tbody>
      </table>
    </Wide>
  );
}

function Row({ figure: { key, words, unit, value, source }, form }: { figure: AssumedFigure; form: AssumedForm }) {
  const isOwn = Number(useWatch({ control: form.control, name: key })) !== value;
  return (
    <tr className="border-b border-rule align-top">
      <th scope="row" className={`text-left pt-[7px] pb-1 pr-4 ${isOwn ? 'font-bold' : 'font-normal'}`}>
        {words}
      </th>
      <td className="py-0.5">
        <FigureField
          name={key}
          label={words}
          unit={unit}
          form={form}
          onReset={isOwn && form.canEdit ? () => form.type(key, String(value)) : undefined}
        />
      </td>
      <td className="text-right pr-6 pt-[7px] pb-1 text-ink-2">{value}</td>
      <td className="pt-[7px] pb-1 text-ink-3">{isOwn ? 'this estate' : source}</td>
    </tr>
  );
}
