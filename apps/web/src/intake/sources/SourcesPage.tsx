import { Link } from 'react-router';
import { useQuery } from '@tanstack/react-query';
import { useCanEdit } from '../../api/session.js';
import { useTitle } from '../../shell/useTitle.js';
import { LdapSection } from './LdapSection.js';
import { OrderSection } from './OrderSection.js';
import { ScimSection } from './ScimSection.js';
import { intakeQueries } from '../queries.js';
import { BackToEstate } from '../../ui/BackToEstate.js';

/** Where facts come from: which source decides, and the sources that come by themselves. */
export function SourcesPage() {
  useTitle('Where facts come from');
  const canEdit = useCanEdit();
  return (
    <div className="px-6 max-[719px]:px-4 pt-[15px] max-w-[1180px]">
      <BackToEstate />
      <h1>Where facts come from</h1>
      <p className="text-ink-2 mt-1 max-w-[760px]">
        A fact may be typed here, told by a device, come from a directory or stand in a list. Each is kept with its source and time; where
        they differ one decides, and the others stay visible at the object.
      </p>
      {canEdit && (
        <>
          <LdapSection />
          <ScimSection />
          <ReportingDevices />
        </>
      )}
      <OrderSection />
    </div>
  );
}

/** Devices that tell what they are: how many wait. */
function ReportingDevices() {
  const waiting = useQuery(intakeQueries.waiting()).data?.length ?? 0;
  return (
    <section aria-labelledby="reporting" className="mt-9">
      <h2 id="reporting">Devices that report</h2>
      <p className="text-ink-2 max-w-[760px]">
        A script reads what a device shows and tells it, by a key that is for so many devices and so long.{' '}
        {waiting > 0 && <b>{waiting === 1 ? '1 device waits to be taken in. ' : `${waiting} devices wait to be taken in. `}</b>}
        <Link className="link" to="/estate/devices">
          Keys and devices that wait
        </Link>
      </p>
    </section>
  );
}
