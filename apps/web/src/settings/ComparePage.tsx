import { useTitle } from '../shell/useTitle.js';
import { CompareCrossings } from './CompareCrossings.js';
import { CompareProfiles } from './CompareProfiles.js';

/** Works for one and not for another: two crossings fact by fact; and two profiles setting by setting, of people, dates or a file. */
export function ComparePage() {
  useTitle('Compare');
  return (
    <div className="grid gap-x-12 gap-y-8 grid-cols-[minmax(0,1fr)] min-[1000px]:grid-cols-2">
      <CompareCrossings />
      <CompareProfiles />
    </div>
  );
}
