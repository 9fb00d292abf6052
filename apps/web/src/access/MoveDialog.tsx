import type { Change, Named } from '@underpass/contracts';
import { doing } from '@underpass/core';
import { useMemo } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { Dialog } from '../ui/Dialog.js';
import { PickRow, StripRow } from '../ui/form/Controlled.js';
import { Consequence } from './Consequence.js';

interface Move {
  who: 'person' | 'group';
  one: Named | null;
  leave: Named | null;
  join: Named | null;
}

/** Moves a person or a whole group from one group to another, seen on paper before it is applied. */
export function MoveDialog({ person, group, onClose }: { person?: Named; group?: Named | null; onClose: () => void }) {
  const { control } = useForm<Move>({
    defaultValues: { who: person ? 'person' : 'group', one: person ?? null, leave: group ?? null, join: null },
  });
  const { who, one, leave, join } = useWatch({ control }) as Move;
  const change = useMemo((): Change | null => {
    const move = { do: 'move' as const, leave: leave?.id ?? null, join: join?.id ?? null };
    if (who === 'group') return leave && join ? doing(move) : null;
    return one && (leave || join) ? doing({ ...move, people: [one.id] }) : null;
  }, [who, one, leave, join]);
  const whom = who === 'group' ? `Everybody in ${leave?.name ?? ''}` : (one?.name ?? '');
  const summary = `${whom}${leave && who === 'person' ? ` out of ${leave.name}` : ''}${join ? `${who === 'group' ? ' moved' : leave ? ' and' : ''} into ${join.name}` : ''}`;
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Move people to another group"
      description="Their desktop and applications change at the next sign-in. No endpoint is restarted."
      wide
    >
      <div className="grid grid-cols-1 min-[640px]:grid-cols-[90px_1fr] gap-y-1 min-[640px]:gap-y-3 items-center">
        <StripRow
          control={control}
          name="who"
          label="Whom"
          options={['person', 'group']}
          words={{ person: 'One person', group: 'A whole group' }}
        />
        {who === 'person' && <PickRow control={control} name="one" label="Person" kind="person" />}
        <PickRow control={control} name="leave" label="Out of" saidAs="Out of group" kind="group" />
        <PickRow control={control} name="join" label="Into" saidAs="Into group" kind="group" />
      </div>
      <div className="mt-4">
        {change ? (
          <Consequence key={JSON.stringify(change)} change={change} summary={summary} onApplied={onClose} />
        ) : (
          <p className="text-ink-3">{who === 'group' ? 'Choose the two groups.' : 'Choose the person and a group to leave or to join.'}</p>
        )}
      </div>
    </Dialog>
  );
}
