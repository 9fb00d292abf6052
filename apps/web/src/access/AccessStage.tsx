import { NavLink, Outlet, useLocation } from 'react-router';
import { parts } from './parts.js';

/** The stage "Access": its parts at the left, the chosen one with a piece of bore. */
export function AccessStage() {
  const { pathname } = useLocation();
  const onPerson = pathname.startsWith('/access/people/');
  return (
    <div className="px-6 grid grid-cols-1 min-[1000px]:grid-cols-[168px_minmax(0,1fr)] gap-x-8">
      <nav
        aria-label="Access"
        className="no-print pt-4 min-[1000px]:border-r border-rule min-[1000px]:pr-4 min-[1000px]:min-h-[calc(100vh-62px)]"
      >
        <ul className="flex flex-wrap min-[1000px]:block gap-x-4">
          {parts.map(({ to, name, route: { index } }) => (
            <li key={to}>
              <NavLink
                to={to}
                end={index ?? false}
                className={({ isActive }) =>
                  `block py-1 relative ${isActive || (index && onPerson) ? 'font-bold pl-3 before:content-[""] before:absolute before:left-0 before:top-[5px] before:bottom-[5px] before:w-[5.5px] before:bg-tile' : 'text-ink-2 hover:text-ink pl-3'}`
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
