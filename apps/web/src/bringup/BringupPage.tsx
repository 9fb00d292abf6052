import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { Empty, NotHere } from '../ui/States.js';
import { useTitle } from '../shell/useTitle.js';
import { Publishing } from './Publishing.js';
import { Sheet } from './Sheet.js';
import { bringupQueries } from './queries.js';
import { causeWords, stepWords } from './words.js';

/** Places by how many of their devices stop before the sign-in screen, most first. */
export function BringupPage() {
  useTitle('Bring-up');
  const answer = useQuery(bringupQueries.places());
  if (!answer.data) return <NotHere asked={answer} awaits="the starts of all devices" what="Bring-up" />;
  const { places, others } = answer.data;
  const sum = (of: (place: (typeof places)[number]) => number) => places.reduce((total, place) => total + of(place), 0);
  const [devices, ready, downgrades] = [sum((p) => p.devices), sum((p) => p.ready), sum((p) => p.downgrades)];
  return (
    <Sheet>
      <h1>
        {ready} of {devices} devices reach their sign-in screen
      </h1>
      <p className="text-ink-2 max-w-[72ch]">
        The next start of every device whose class is described, simulated against its place: link, address, settings, firmware, time,
        sign-in.
        {downgrades > 0 && ` ${downgrades} would be put back to older firmware.`}
        {others > 0 && ` ${others} devices are of classes that nobody described.`}
      </p>
      <p className="mt-2 flex flex-wrap gap-x-5">
        <Link className="link min-h-[24px] inline-flex items-center" to="/bringup/all/firmware">
          Firmware that is up
        </Link>
        <Link className="link min-h-[24px] inline-flex items-center" to="/bringup/all/images">
          Images for cards
        </Link>
        <Link className="link min-h-[24px] inline-flex items-center" to="/bringup/all/recipes">
          Recipes for hosts
        </Link>
        <Link className="link min-h-[24px] inline-flex items-center" to="/bringup/all/cost">
          What devices cost
        </Link>
      </p>
      {places.length === 0 ? (
        <Empty
          action={
            <Link className="btn" to="/estate/deviceClass/new">
              Describe a device class
            </Link>
          }
        >
          No device class is described yet. Say what its devices call themselves and in which option they look for their settings server.
        </Empty>
      ) : (
        <table className="w-full mt-5 max-[700px]:block">
          <thead className="max-[700px]:hidden">
            <tr className="text-left text-ink-3 border-b-[1.5px] border-ink">
              <th className="font-normal py-1.5 pr-4">Place</th>
              <th className="font-normal py-1.5 pr-4 text-right">Ready</th>
              <th className="font-normal py-1.5 pr-4 text-right">Of</th>
              <th className="font-normal py-1.5 pr-4 text-right">Put back</th>
              <th className="font-normal py-1.5">What stops the others</th>
            </tr>
          </thead>
          <tbody className="max-[700px]:block">
            {places.map((place) => (
              <tr key={place.id} className="border-b border-rule hover:bg-earth max-[700px]:block max-[700px]:py-2">
                <td className="py-1.5 pr-4 max-[700px]:block">
                  <Link
                    className="link min-h-[24px] inline-flex items-center font-semibold"
                    to={`/bringup/${encodeURIComponent(place.id)}`}
                  >
                    {place.name}
                  </Link>
                </td>
                <td className="py-1.5 pr-4 text-right max-[700px]:inline max-[700px]:pr-0">{place.ready}</td>
                <td className="py-1.5 pr-4 text-right text-ink-3 max-[700px]:inline">
                  <span className="hidden max-[700px]:inline">{' of '}</span>
                  {place.devices}
                </td>
                <td className="py-1.5 pr-4 text-right max-[700px]:hidden">{place.downgrades || ''}</td>
                <td className="py-1.5 max-[700px]:block">
                  {place.stops.map(({ step, code, devices: n }) => (
                    <span key={code} className="mr-4 inline-block">
                      <span className="text-brick">{causeWords(code)}</span>
                      <span className="text-ink-3">
                        {' '}
                        at {stepWords(step)}
                        {n > 1 && `, ${n} devices`}
                      </span>
                    </span>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {places.length > 0 && <Publishing />}
    </Sheet>
  );
}
