import { DndContext, PointerSensor, useDraggable, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import type { Screen } from '@underpass/contracts';
import { placedAt, primaryOf, putScreen, type Placed } from '@underpass/core';
import type { KeyboardEvent } from 'react';
import { useMeasuredWidth } from '../../drawing/useMeasuredWidth.js';
import { modeWords, screenName } from './names.js';

/** Height of the plan, and the least that is left free around the screens, px of the page. */
const planPx = 320;
const marginPx = 34;
/** How far an arrow moves a screen, px of the desk; with Shift one by one. */
const stepPx = 10;
const arrows: Record<string, readonly [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** The desk seen from the front, to scale: screens are dragged, or moved with the arrows. */
export function DeskPlan({
  screens,
  faulty,
  chosen,
  onChoose,
  onMove,
  canEdit,
}: {
  screens: readonly Screen[];
  /** Screens that something is wrong with. */
  faulty: ReadonlySet<number>;
  chosen: number;
  onChoose: (screen: number) => void;
  onMove: (screens: Screen[]) => void;
  canEdit: boolean;
}) {
  const [frame, width] = useMeasuredWidth<HTMLDivElement>(700);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const places = placedAt(screens);
  const box = boundsOf(places);
  const factor = Math.min((Math.max(width, 200) - 2 * marginPx) / box.widthPx, (planPx - 2 * marginPx) / box.heightPx);
  const left = (Math.max(width, 200) - box.widthPx * factor) / 2;
  const top = (planPx - box.heightPx * factor) / 2;
  const first = primaryOf(screens);
  const drop = ({ active, delta }: DragEndEvent) => {
    const i = Number(active.id);
    const place = places[i];
    if (place) onMove(putScreen(screens, i, { x: place.x + delta.x / factor, y: place.y + delta.y / factor }));
  };
  const press = (i: number) => (event: KeyboardEvent) => {
    const way = arrows[event.key];
    const place = places[i];
    if (!way || !place || !canEdit) return;
    event.preventDefault();
    const by = event.shiftKey ? 1 : stepPx;
    // by hand it goes where it is put, to the pixel
    onMove(putScreen(screens, i, { x: place.x + way[0] * by, y: place.y + way[1] * by }, 0));
  };
  return (
    <div ref={frame} className="relative bg-earth border-t-[1.5px] border-ink overflow-hidden" style={{ height: planPx }}>
      <DndContext
        sensors={sensors}
        onDragStart={({ active }) => onChoose(Number(active.id))}
        onDragEnd={drop}
        accessibility={{ screenReaderInstructions: { draggable: 'The arrow keys move this screen, with Shift by single pixels.' } }}
      >
        {screens.map((screen, i) => {
          const place = places[i] as Placed;
          return (
            <PlannedScreen
              key={i}
              i={i}
              name={screenName(screens, i)}
              screen={screen}
              primary={i === first}
              faulty={faulty.has(i)}
              chosen={i === chosen}
              fixed={!canEdit || screen.mirrors === true}
              place={{
                left: left + (place.x - box.x) * factor,
                top: top + (place.y - box.y) * factor,
                width: place.widthPx * factor,
                height: place.heightPx * factor,
              }}
              onChoose={() => onChoose(i)}
              onKeyDown={press(i)}
            />
          );
        })}
      </DndContext>
      <Dimensions
        edges={[...new Set(places.flatMap(({ x, widthPx }) => [x, x + widthPx]))].sort((a, b) => a - b)}
        atPx={(x) => left + (x - box.x) * factor}
        width={Math.max(width, 200)}
      />
    </div>
  );
}

/** How wide everything is, px of the desk, as on any drawing: a line with oblique ticks at the edges. */
function Dimensions({ edges, atPx, width }: { edges: readonly number[]; atPx: (x: number) => number; width: number }) {
  const y = planPx - 10;
  return (
    <svg aria-hidden="true" className="absolute inset-0 pointer-events-none" width={width} height={planPx}>
      <line x1={atPx(edges[0] ?? 0)} x2={atPx(edges.at(-1) ?? 0)} y1={y} y2={y} className="stroke-ink-2" />
      {edges.map((edge) => (
        <line key={edge} x1={atPx(edge) - 4} x2={atPx(edge) + 4} y1={y + 4} y2={y - 4} className="stroke-ink-2" strokeWidth={1.5} />
      ))}
      {edges.slice(1).map((edge, i) => {
        const from = edges[i] ?? 0;
        return (
          atPx(edge) - atPx(from) > 34 && (
            <text key={edge} x={(atPx(edge) + atPx(from)) / 2} y={y - 4} textAnchor="middle" className="fill-ink-2 text-[12.5px]">
              {edge - from}
            </text>
          )
        );
      })}
    </svg>
  );
}

function boundsOf(places: readonly Placed[]): Placed {
  const x = Math.min(...places.map((place) => place.x));
  const y = Math.min(...places.map((place) => place.y));
  const right = Math.max(...places.map((place) => place.x + place.widthPx));
  const below = Math.max(...places.map((place) => place.y + place.heightPx));
  return { x, y, widthPx: right - x, heightPx: below - y };
}

function PlannedScreen({
  i,
  name,
  screen,
  primary,
  faulty,
  chosen,
  fixed,
  place,
  onChoose,
  onKeyDown,
}: {
  i: number;
  name: string;
  screen: Screen;
  primary: boolean;
  faulty: boolean;
  chosen: boolean;
  fixed: boolean;
  place: { left: number; top: number; width: number; height: number };
  onChoose: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
}) {
  const { setNodeRef, listeners, attributes, transform, isDragging } = useDraggable({ id: String(i), disabled: fixed });
  const mirrors = screen.mirrors === true;
  return (
    <button
      ref={setNodeRef}
      {...attributes}
      {...listeners}
      role="button"
      aria-pressed={chosen}
      aria-label={`${name}, ${modeWords(screen)}${primary ? ', primary' : mirrors ? ', mirrors the primary' : ''}${faulty ? ', something is wrong' : ''}`}
      onClick={onChoose}
      onKeyDown={onKeyDown}
      className={`absolute flex flex-col justify-start items-stretch bg-sheet text-left overflow-hidden touch-none border-[1.5px] ${
        mirrors ? 'border-dashed border-rule-2 bg-transparent' : faulty ? 'border-amber' : 'border-ink'
      } ${fixed ? '' : isDragging ? 'cursor-grabbing' : 'cursor-grab'} ${isDragging ? 'opacity-80' : ''}`}
      style={{
        ...(mirrors ? { ...place, left: place.left + 6, top: place.top + 6, width: place.width - 12, height: place.height - 12 } : place),
        zIndex: isDragging ? 3 : mirrors ? 2 : 1,
        transform: transform ? `translate(${transform.x}px, ${transform.y}px)` : undefined,
      }}
    >
      {/* what is chosen is a piece of bore */}
      {chosen && <span className="absolute left-0 top-0 right-0 h-[5.5px] bg-bore" />}
      <span className={`block p-2 pt-2.5 leading-[17px] ${mirrors ? 'absolute bottom-0 left-0' : ''}`}>
        <span className="block font-bold truncate">{name}</span>
        {!mirrors && (
          <span className="block text-ink-2 truncate">
            {modeWords(screen)}
            {screen.scale !== 1 && `, scale ${screen.scale}`}
            {screen.turned ? `, turned ${screen.turned}°` : ''}
          </span>
        )}
        <span className="block truncate text-ink-3">{mirrors ? 'mirrors the primary' : primary ? 'primary' : ''}</span>
      </span>
    </button>
  );
}
