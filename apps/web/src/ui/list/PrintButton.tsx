import { useEffect, useState } from 'react';

/** Most rows on paper; more of them are for a spreadsheet. */
const mostPrinted = 2000;

/** Prints a list: first what is not fetched yet is, then the browser is asked to print what stands. */
export function PrintButton({
  rows,
  total,
  hasMore,
  onMore,
}: {
  /** How many stand on the page. */
  rows: number;
  total: number;
  /** Whether more can be fetched that is not on its way. */
  hasMore: boolean;
  onMore: () => void;
}) {
  const [wanted, setWanted] = useState(false);
  const complete = rows >= Math.min(total, mostPrinted);
  useEffect(() => {
    if (!wanted) return;
    if (!complete) {
      if (hasMore) onMore();
      return;
    }
    setWanted(false);
    // a turn later, with the rows drawn; what was pressed is done, also where another screen is opened meanwhile
    setTimeout(() => window.print(), 50);
  }, [wanted, complete, hasMore, onMore]);
  return (
    <button type="button" className="btn btn-small" aria-busy={wanted} onClick={() => setWanted(true)}>
      {wanted ? `Fetching, ${rows} of ${Math.min(total, mostPrinted)}` : 'Print'}
    </button>
  );
}
