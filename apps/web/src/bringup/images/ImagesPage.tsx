import { useQuery } from '@tanstack/react-query';
import type { ImageList, Named } from '@underpass/contracts';
import { Link, useSearchParams } from 'react-router';
import { useCanEdit } from '../../api/session.js';
import { useTitle } from '../../shell/useTitle.js';
import { Pick } from '../../ui/Pick.js';
import { Empty, NotHere } from '../../ui/States.js';
import { Sheet } from '../Sheet.js';
import { bringupQueries } from '../queries.js';
import { megabytes } from '../words.js';
import { CardPlanning } from './CardPlanning.js';
import { CardReadBack } from './CardReadBack.js';

/** Images for cards and sticks: which devices start from them, a card planned for one device, and a written card read back. */
export function ImagesPage() {
  useTitle('Images');
  const canEdit = useCanEdit();
  const [search, setSearch] = useSearchParams();
  const device = search.get('device');
  const answer = useQuery(bringupQueries.images());
  if (!answer.data) return <NotHere asked={answer} awaits="the images" what="Images" />;
  const { images } = answer.data;
  const chosen: Named | null = device === null ? null : { id: device, name: device };
  return (
    <Sheet back={{ to: '/bringup', name: 'Bring-up' }}>
      <h1>{headline(answer.data)}</h1>
      <Delivered {...answer.data} />
      {images.length === 0 ? (
        <Empty
          action={
            canEdit && (
              <Link className="btn" to="/estate/image/new">
                Describe an image
              </Link>
            )
          }
        >
          No image is described yet. Say for which devices one is, how they start from it, and how large it is.
        </Empty>
      ) : (
        <Images images={images} />
      )}
      <section aria-labelledby="plan" className="mt-8">
        <h2 id="plan">Plan a card</h2>
        <p className="mt-2 flex flex-wrap gap-x-4 items-center">
          <label htmlFor="card-device">For the device</label>
          <Pick
            id="card-device"
            kind="endpoint"
            label="Device"
            value={chosen}
            onPick={(named) => setSearch(named ? { device: named.id } : {}, { replace: true })}
          />
        </p>
        {device !== null && <CardPlanning key={device} device={device} />}
      </section>
      <CardReadBack />
    </Sheet>
  );
}

function headline({ images }: ImageList): string {
  const open = images.filter(({ password }) => password === 'delivered').length;
  if (images.length === 0) return 'No image for cards is described';
  if (open === 0) return 'No image lets anybody in with the password it is delivered with';
  return open === 1
    ? 'One image lets anybody in with the password it is delivered with'
    : `${open} images let anybody in with the password they are delivered with`;
}

function Delivered({ delivered, deliveredCount: count }: ImageList) {
  if (count === 0) return <p className="text-ink-2">No device is known to take the password it came with.</p>;
  const rest = count - delivered.length;
  return (
    <p className="text-amber">
      {count === 1 ? 'One device still takes' : `${count} devices still take`} the password {count === 1 ? 'it' : 'they'} came with:{' '}
      {delivered.map((id, i) => (
        <span key={id}>
          {i > 0 && ', '}
          <Link className="link" to={`/estate/endpoint/${encodeURIComponent(id)}`}>
            {id}
          </Link>
        </span>
      ))}
      {rest > 0 && ` and ${rest} more`}. Set one of their own.
    </p>
  );
}

const getsIn = {
  delivered: 'by the password it is delivered with',
  asked: 'by one that it asks for at first',
  none: 'nobody does',
} as const;

function Images({ images }: { images: ImageList['images'] }) {
  return (
    <table className="w-full mt-5 max-[700px]:block">
      <thead className="max-[700px]:hidden">
        <tr className="text-left text-ink-3 border-b-[1.5px] border-ink">
          <th className="font-normal py-1.5 pr-4">Image</th>
          <th className="font-normal py-1.5 pr-4">For</th>
          <th className="font-normal py-1.5 pr-4 text-right">Unpacked</th>
          <th className="font-normal py-1.5 pr-4">Devices of its class</th>
          <th className="font-normal py-1.5">Who sets it up gets in</th>
        </tr>
      </thead>
      <tbody className="max-[700px]:block">
        {images.map(({ id, version, deviceClass, processor, bootMode, models, sizeMB, devices, password }) => (
          <tr key={id} className="border-b border-rule align-top max-[700px]:block max-[700px]:py-2">
            <td className="py-1.5 pr-4 max-[700px]:block">
              <Link className="link min-h-[24px] inline-flex items-center font-semibold" to={`/estate/image/${encodeURIComponent(id)}`}>
                {version}
              </Link>
              <span className="block mono text-ink-3">{id}</span>
            </td>
            <td className="py-1.5 pr-4 max-[700px]:block">
              {deviceClass}, {processor}, {bootMode}
              {models.length > 0 && <span className="block text-ink-2">{models.join(', ')}</span>}
            </td>
            <td className="py-1.5 pr-4 text-right whitespace-nowrap max-[700px]:block max-[700px]:text-left">{megabytes(sizeMB)}</td>
            <td className="py-1.5 pr-4 max-[700px]:block">
              {devices.fits} start from it
              {devices.notKnown > 0 && <span className="block text-ink-3">{devices.notKnown} perhaps: model or start is not known</span>}
              {devices.others > 0 && <span className="block text-ink-3">{devices.others} do not</span>}
            </td>
            <td className={`py-1.5 max-[700px]:block ${password === 'delivered' ? 'text-amber font-semibold' : ''}`}>
              {password === null ? <span className="text-ink-3">not known</span> : getsIn[password]}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
