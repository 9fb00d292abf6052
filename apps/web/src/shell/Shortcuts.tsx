import { useState } from 'react';
import { Dialog } from '../ui/Dialog.js';
import { keysAreOff, switchKeys } from './keys.js';
import { menu, stages } from './stages.js';

const list = [
  ['/', 'Find a person, endpoint, place, screen or action'],
  ...menu.map(({ key, name }) => [key, name] as const),
  ['j  k', 'Next and previous row'],
  ['Enter  Esc', 'Open, back'],
  ...stages.flatMap(({ shortcuts }) => shortcuts ?? []),
  ['?', 'This list'],
] as const;

export function Shortcuts({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const [off, setOff] = useState(keysAreOff());
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Keyboard shortcuts" description="They never act while you type.">
      <dl className="grid grid-cols-[110px_1fr] gap-y-1.5">
        {list.map(([keys, what]) => (
          <div key={keys} className="contents">
            <dt>
              <kbd>{keys}</kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <label className="flex gap-2 mt-5 items-center">
        <input
          type="checkbox"
          checked={!off}
          onChange={(event) => {
            switchKeys(event.target.checked);
            setOff(!event.target.checked);
          }}
        />
        Use shortcuts on this device
      </label>
    </Dialog>
  );
}
