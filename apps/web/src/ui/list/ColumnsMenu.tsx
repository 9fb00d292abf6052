import { Check, Columns3 } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { ListColumn } from './columns.js';

/** Which columns a list shows; the first stays. */
export function ColumnsMenu<T>({
  columns,
  shown,
  onShown,
}: {
  columns: readonly ListColumn<T>[];
  shown: readonly string[];
  onShown: (shown: string[]) => void;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="btn btn-small">
        <Columns3 size={13} aria-hidden className="mr-1.5" />
        Columns
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={6} className="bg-sheet border border-ink py-1 z-40 max-h-[60vh] overflow-auto">
          {columns.slice(1).map(({ id, head }) => (
            <DropdownMenu.CheckboxItem
              key={id}
              className="pl-7 pr-4 py-1.5 relative outline-none data-[highlighted]:bg-earth cursor-pointer"
              checked={shown.includes(id)}
              // several are chosen in one go
              onSelect={(event) => event.preventDefault()}
              onCheckedChange={(on) =>
                onShown(columns.map((column) => column.id).filter((each) => (each === id ? on : shown.includes(each))))
              }
            >
              <DropdownMenu.ItemIndicator className="absolute left-2 top-[9px]">
                <Check size={13} aria-hidden />
              </DropdownMenu.ItemIndicator>
              {head}
            </DropdownMenu.CheckboxItem>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
