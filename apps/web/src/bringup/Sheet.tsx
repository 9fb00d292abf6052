import { Link } from 'react-router';

/** A page of the stage, with the way back to what it is a part of. */
export function Sheet({ back, children }: { back?: { to: string; name: string }; children: React.ReactNode }) {
  return (
    <div className="px-6 pt-[15px] pb-8 max-[600px]:px-4">
      {back && (
        <p>
          <Link className="link min-h-[24px] inline-flex items-center" to={back.to}>
            {back.name}
          </Link>
        </p>
      )}
      {children}
    </div>
  );
}

/** The way back to a place. */
export const toPlace = (id: string, name: string) => ({ to: `/bringup/${encodeURIComponent(id)}`, name });
