import { useTitle } from '../../shell/useTitle.js';
import { useCanEdit } from '../../api/session.js';
import { Batches } from './Batches.js';
import { Waiting } from './Waiting.js';
import { BackToEstate } from '../../ui/BackToEstate.js';

/** Devices that tell what they are: their keys, and those that wait to be taken in. */
export function DevicesPage() {
  useTitle('Devices that report');
  const canEdit = useCanEdit();
  return (
    <div className="px-6 max-[719px]:px-4 pt-[15px] max-w-[1180px]">
      <BackToEstate />
      <h1>Devices that report</h1>
      <p className="text-ink-2 mt-1 max-w-[760px]">
        A device or its start script runs a script that tells what its system shows: processor, memory, addresses, connection, screens, USB,
        graphics, clock. It prints what it tells. Known devices are brought up to date; others wait here.
      </p>
      {canEdit ? (
        <>
          <Waiting />
          <Batches />
        </>
      ) : (
        <p className="mt-4">Engineers make their keys and take them in.</p>
      )}
    </div>
  );
}
