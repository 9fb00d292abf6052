import type { BringupPlace } from '@underpass/contracts';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { ShortLog } from './ShortLog.js';
import { seconds, stepWords } from './words.js';

const rowHeight = 47;
/** Beyond which only the rows in sight are drawn. */
const few = 60;

/** The devices of a place as short logs, those that stop first. */
export function DeviceList({ place, chosen, pathOf }: { place: BringupPlace; chosen: string; pathOf: (id: string) => string }) {
  const box = useRef<HTMLDivElement>(null);
  const { devices } = place;
  const at = devices.findIndex(({ id }) => id === chosen);
  const rows = useVirtualizer({
    count: devices.length,
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan: devices.length <= few ? few : 8,
  });
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at, { align: 'auto' });
  }, [at, rows]);
  return (
    <div
      ref={box}
      tabIndex={0}
      role="region"
      aria-label="Devices"
      className="overflow-y-auto max-h-[calc(100vh-190px)] max-[900px]:max-h-[260px]"
    >
      <ul className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const device = devices[index];
          if (!device) return null;
          const isChosen = device.id === chosen;
          return (
            <li key={device.id} className="absolute left-0 right-0" style={{ top: start, height: rowHeight }}>
              <Link
                to={pathOf(device.id)}
                replace
                data-row
                aria-current={isChosen ? 'true' : undefined}
                className={`flex items-start gap-2 h-full py-1 pl-3 pr-1 border-b border-rule hover:bg-earth ${isChosen ? 'shadow-[inset_5px_0_0_var(--tile)] bg-sheet' : ''}`}
              >
                <span className="min-w-0 flex-1">
                  <span className="block font-mono font-semibold text-[12.5px] truncate">{device.id}</span>
                  <span className={`block truncate ${device.broken ? 'text-brick' : device.notes.length ? 'text-amber' : 'text-ink-2'}`}>
                    {device.broken ? stepWords(device.broken.step) : (device.notes[0]?.code ?? device.person ?? 'sign-in')}
                  </span>
                </span>
                <ShortLog done={device.done} broken={device.broken !== null} />
                <span className="w-12 text-right text-ink-3">{seconds(device.totalMs)}</span>
              </Link>
            </li>
          );
        })}
      </ul>
    </div>
  );
}
