import { DndContext, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from '@dnd-kit/core';
import type { RulesAnswer, UsbRule } from '@underpass/contracts';
import { Link } from 'react-router';
import { carriedText, matchText } from './words.js';

type Rule = RulesAnswer['rules'][number];

/** The rules, first one that fits decides; moved by drag, or by the keys of a row. */
export function RuleTable({
  rules,
  deciding,
  canEdit,
  onMove,
}: {
  rules: readonly { rule: UsbRule; devices: Rule['devices'] | null; shadowedBy: string | null; fresh: boolean }[];
  /** The rule that decides what is looked at. */
  deciding: string | null;
  canEdit: boolean;
  onMove: (id: string, to: number) => void;
}) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  return (
    <DndContext
      sensors={sensors}
      onDragEnd={({ active, over }) => {
        const to = rules.findIndex(({ rule }) => rule.id === over?.id);
        if (to >= 0 && over?.id !== active.id) onMove(String(active.id), to);
      }}
    >
      <table className="w-full" aria-label="Rules, the first that fits decides">
        <thead className="head">
          <tr>
            <th scope="col">
              <span className="sr-only">Place</span>
            </th>
            <th scope="col">Name</th>
            <th scope="col">Fits</th>
            <th scope="col">Carried as</th>
            <th scope="col" className="text-right">
              devices
            </th>
            {canEdit && (
              <th scope="col">
                <span className="sr-only">Move</span>
              </th>
            )}
          </tr>
        </thead>
        <tbody>
          {rules.map((each, i) => (
            <Row
              key={each.rule.id}
              place={i}
              each={each}
              isDeciding={each.rule.id === deciding}
              last={i === rules.length - 1}
              canEdit={canEdit}
              onMove={onMove}
            />
          ))}
        </tbody>
      </table>
    </DndContext>
  );
}

function Row({
  place,
  each: { rule, devices, shadowedBy, fresh },
  isDeciding,
  last,
  canEdit,
  onMove,
}: {
  place: number;
  each: { rule: UsbRule; devices: number | null; shadowedBy: string | null; fresh: boolean };
  isDeciding: boolean;
  last: boolean;
  canEdit: boolean;
  onMove: (id: string, to: number) => void;
}) {
  const drag = useDraggable({ id: rule.id, disabled: !canEdit });
  const drop = useDroppable({ id: rule.id });
  const name = rule.name ?? rule.id;
  return (
    <tr
      ref={drop.setNodeRef}
      className={`border-b border-rule align-top ${isDeciding ? 'bg-amber-wash' : drop.isOver ? 'bg-tile-wash' : ''}`}
      aria-current={isDeciding ? 'true' : undefined}
    >
      <td className="py-1.5 pl-1 pr-2 text-ink-3 w-[30px]">
        <span
          ref={drag.setNodeRef}
          {...drag.listeners}
          className={canEdit ? 'cursor-grab touch-none select-none' : ''}
          title={canEdit ? 'Drag to another place' : undefined}
        >
          {place + 1}
        </span>
      </td>
      <th scope="row" className="text-left py-1.5 pr-3">
        {fresh ? (
          <span>
            {name} <span className="font-normal text-ink-3">in the draft</span>
          </span>
        ) : (
          <Link className="hover:underline" to={`/estate/usbRule/${encodeURIComponent(rule.id)}`}>
            {name}
          </Link>
        )}
        {shadowedBy && <span className="block font-normal text-[12.5px] text-amber">never reached: {shadowedBy} fits all it does</span>}
      </th>
      <td className="py-1.5 pr-3 text-ink-2">{matchText(rule.match)}</td>
      <td className="py-1.5 pr-3">
        {carriedText(rule)}
        {rule.when && <span className="block text-[12.5px] text-ink-3">{rule.when}</span>}
      </td>
      <td className="py-1.5 text-right">{devices ?? '–'}</td>
      {canEdit && (
        <td className="py-1 pl-2 whitespace-nowrap">
          <button
            className="btn btn-small px-2"
            aria-label={`Move ${name} up`}
            disabled={place === 0}
            onClick={() => onMove(rule.id, place - 1)}
          >
            Up
          </button>{' '}
          <button
            className="btn btn-small px-2"
            aria-label={`Move ${name} down`}
            disabled={last}
            onClick={() => onMove(rule.id, place + 1)}
          >
            Down
          </button>
        </td>
      )}
    </tr>
  );
}
