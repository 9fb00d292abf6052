import { useQueryClient } from '@tanstack/react-query';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { NavLink, useNavigate } from 'react-router';
import { call } from '../api/client.js';
import { useSession } from '../api/session.js';
import { forgetTyped } from '../ui/typed.js';
import { Find } from './Find.js';
import { Mark } from './Mark.js';
import { menu } from './stages.js';
import { currentTheme, setTheme } from './theme.js';

const roleWords = { reader: 'reader', engineer: 'access engineer', admin: 'administrator' };

/** The header's lower edge is the ground line; the stage you are in runs beneath it. */
export function Header({ find, onShortcuts }: { find: React.RefObject<HTMLInputElement | null>; onShortcuts: () => void }) {
  const { data: session } = useSession();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [theme, show] = useState(currentTheme());
  const item = 'px-3 py-1.5 outline-none data-[highlighted]:bg-earth cursor-pointer';
  return (
    <header className="no-print h-[46px] flex items-stretch px-6 border-b-[1.5px] border-ink relative z-20">
      <NavLink to="/board" className="flex items-center gap-[9px] font-extrabold text-[17px] tracking-[-0.01em] mr-6">
        <Mark />
        Underpass
      </NavLink>
      <nav aria-label="Stages of work" className="flex gap-0.5">
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
      <span className="flex-1" />
      <Find input={find} />
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="ml-5 text-right text-[13px] leading-[15px] self-center whitespace-nowrap">
          <b className="block font-semibold">{session?.name}</b>
          <span className="text-ink-3 text-[12px] max-[1099px]:hidden">{session && roleWords[session.role]}</span>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" sideOffset={10} className="bg-sheet border border-ink py-1 z-40 min-w-[190px] text-[13px]">
            <DropdownMenu.Item
              className={item}
              onSelect={() => {
                const next = theme === 'dark' ? 'light' : 'dark';
                setTheme(next);
                show(next);
              }}
            >
              {theme === 'dark' ? 'Show it light' : 'Show it dark'}
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => void navigate('/account')}>
              Your account
            </DropdownMenu.Item>
            {session?.role === 'admin' && (
              <DropdownMenu.Item className={item} onSelect={() => void navigate('/sign-ins')}>
                Who may sign in
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className={item} onSelect={onShortcuts}>
              Keyboard shortcuts
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => window.open('/api/docs', '_blank', 'noopener')}>
              Programming interface
            </DropdownMenu.Item>
            <DropdownMenu.Item
              className={item}
              onSelect={() =>
                void call<{ leadsTo: string } | undefined>('session', 'DELETE')
                  .catch(() => undefined)
                  .then((there) => {
                    client.clear();
                    forgetTyped();
                    // signed out here; where the organisation’s sign-in is to be left too, it goes on there
                    if (there) location.assign(there.leadsTo);
                    else location.assign('/board');
                  })
              }
            >
              Sign out
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </header>
  );
}
