import { NavLink, Outlet, useLocation } from 'react-router';
import { parts } from './parts.js';

/** The stage "Settings": its parts in one line, the chosen one over a piece of bore. */
export function SettingsStage() {
  const { pathname } = useLocation();
  return (
    <div className="px-6">
      <nav aria-label="Settings" className="no-print pt-2 border-b border-rule">
        <ul className="flex flex-wrap gap-x-6">
          {parts.map(({ to, name, route: { index } }) => (
            <li key={to}>
              <NavLink
                to={to}
                end={index ?? false}
                className={({ isActive }) =>
                  `inline-flex items-center min-h-[28px] border-b-[5.5px] ${isActive || (to === '/settings/drafts' && pathname.startsWith(`${to}/`)) ? 'font-bold border-bore' : 'text-ink-2 hover:text-ink border-transparent'}`
                }
              >
                {name}
              </NavLink>
            </li>
          ))}
        </ul>
      </nav>
      <div className="pt-[15px] min-w-0">
        <Outlet />
      </div>
    </div>
  );
}
