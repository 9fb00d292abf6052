import type { Change, Named } from '@underpass/contracts';
import { doing } from '@underpass/core';
import { useMemo, useState } from 'react';
import { Dialog } from '../ui/Dialog.js';
import { Pick } from '../ui/Pick.js';
import { Strip } from '../ui/Strip.js';
import { Consequence } from './Consequence.js';

/** Moves a person or a whole group from one group to another, seen on paper before it is applied. */
export function MoveDialog({ person, group, onClose }: { person?: Named; group?: Named | null; onClose: () => void }) {
  const [who, setWho] = useState<'person' | 'group'>(person ? 'person' : 'group');
  const [one, setOne] = useState<Named | null>(person ?? null);
  const [leave, setLeave] = useState<Named | null>(group ?? null);
  const [join, setJoin] = useState<Named | null>(null);
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
        <span>Whom</span>
        <Strip
          label="Whom"
          options={['person', 'group']}
          value={who}
          onChange={setWho}
          words={{ person: 'One person', group: 'A whole group' }}
        />
        {who === 'person' && (
          <>
            <span>Person</span>
            <Pick kind="person" label="Person" value={one} onPick={setOne} />
          </>
        )}
        <span>Out of</span>
        <Pick kind="group" label="Out of group" value={leave} onPick={setLeave} />
        <span>Into</span>
        <Pick kind="group" label="Into group" value={join} onPick={setJoin} />
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
