import { Link } from 'react-router';
import { useTitle } from '../../shell/useTitle.js';
import { OrderSection } from './OrderSection.js';

/** Where facts come from: which source decides, and the sources that come by themselves. */
export function SourcesPage() {
  useTitle('Where facts come from');
  return (
    <div className="px-6 max-[719px]:px-4 pt-[15px] max-w-[1180px]">
      <p className="text-ink-3">
        <Link className="link" to="/estate">
          Estate
        </Link>
      </p>
      <h1>Where facts come from</h1>
      <p className="text-ink-2 mt-1 max-w-[760px]">
        A fact may be typed here, told by a device, come from a directory or stand in a list. Each is kept with its source and time; where
        they differ one decides, and the others stay visible at the object.
      </p>
      <OrderSection />
    </div>
  );
}
