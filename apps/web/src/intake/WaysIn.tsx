import { Link } from 'react-router';
import { useCanEdit } from '../api/session.js';
import { Empty } from '../ui/States.js';

/** What every screen offers that has nothing to show because nothing is in the estate yet: the ways to bring something in. */
export function WaysIn({ children }: { children: React.ReactNode }) {
  const canEdit = useCanEdit();
  return (
    <Empty
      action={
        canEdit && (
          <span className="flex flex-wrap gap-3">
            <Link className="btn btn-primary" to="/check-one">
              Check one person
            </Link>
            <Link className="btn" to="/estate/list">
              Take in a list
            </Link>
            <Link className="btn" to="/estate/import">
              Import an estate folder
            </Link>
          </span>
        )
      }
    >
      {children}
    </Empty>
  );
}
