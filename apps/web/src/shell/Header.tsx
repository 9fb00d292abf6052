import { lazy, Suspense } from 'react';
import { NavLink } from 'react-router';
import { Mark } from './Mark.js';
import { menu } from './stages.js';

// neither is among what the first screen waits for
const UserMenu = lazy(async () => ({ default: (await import('./UserMenu.js')).UserMenu }));
const Find = lazy(async () => ({ default: (await import('./Find.js')).Find }));
/** The header's lower edge is the ground line; the stage you are in runs beneath it. */
export function Header({ find, onShortcuts }: { find: React.RefObject<HTMLInputElement | null>; onShortcuts: () => void }) {
  return (
    <header className="no-print h-[46px] flex items-stretch px-6 max-[719px]:px-4 border-b-[1.5px] border-ink relative z-20">
      <NavLink to="/board" className="flex items-center gap-[9px] font-extrabold text-[17px] tracking-[-0.01em] mr-6 max-[719px]:mr-3">
        <Mark />
        <span className="max-[719px]:sr-only">Underpass</span>
      </NavLink>
      <nav aria-label="Stages of work" className="flex gap-0.5 max-[719px]:hidden">
        {menu.map(({ to, name }) => (
          <NavLink
            key={to}
            to={to}
            className={({ isActive }) =>
              `flex items-center px-[9px] text-[14px] relative ${isActive ? 'font-bold text-ink after:content-[""] after:absolute after:inset-x-[3px] after:-bottom-[7px] after:h-[5.5px] after:bg-tile' : 'font-medium text-ink-2 hover:text-ink'}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <span className="flex-1 max-[719px]:hidden" />
      <Suspense fallback={<span className="self-center w-[230px] max-[719px]:flex-1 h-[28px] border-b border-rule-2" />}>
        <Find input={find} />
      </Suspense>
      <Suspense fallback={<span className="ml-5 max-[719px]:ml-3 self-center w-[86px] max-[719px]:w-[64px]" />}>
        <UserMenu onShortcuts={onShortcuts} />
      </Suspense>
    </header>
  );
}
