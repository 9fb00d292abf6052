import { useQueryClient } from '@tanstack/react-query';
import { roleWords } from '@underpass/contracts';
import { Menu } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { call } from '../api/client.js';
import { useSession } from '../api/session.js';
import { forgetTyped } from '../ui/typed.js';
import { menu } from './stages.js';
import { currentTheme, setTheme } from './theme.js';

/** What belongs to whoever is signed in; in the hand the stages of work too. */
export function UserMenu({ onShortcuts }: { onShortcuts: () => void }) {
  const { data: session } = useSession();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [theme, show] = useState(currentTheme());
  const item = 'px-3 py-1.5 max-[719px]:py-2.5 outline-none data-[highlighted]:bg-earth cursor-pointer';
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="ml-5 max-[719px]:ml-3 text-right text-[13px] leading-[15px] self-center whitespace-nowrap min-h-[30px]">
        <span className="min-[720px]:hidden inline-flex items-center gap-1.5 font-semibold px-1">
          <Menu size={18} aria-hidden />
          Menu
        </span>
        <b className="block font-semibold max-[719px]:hidden">{session?.name}</b>
        <span className="text-ink-3 text-[12px] max-[1099px]:hidden">{session && roleWords[session.role]}</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={10} className="bg-sheet border border-ink py-1 z-40 min-w-[190px] text-[13px]">
          {menu.map(({ to, name }) => (
            <DropdownMenu.Item key={to} className={`${item} min-[720px]:hidden font-semibold`} onSelect={() => void navigate(to)}>
              {name}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="min-[720px]:hidden border-t border-rule my-1" />
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
  );
}
