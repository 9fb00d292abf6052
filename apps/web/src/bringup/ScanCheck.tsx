import { judgeScan, readScan } from '@underpass/core';
import { useMemo, useState } from 'react';

const words = {
  good: 'Good for display and voice',
  marginal: 'Barely enough',
  poor: 'Too weak',
  'not there': 'Not there',
  'cannot be joined': 'Cannot be joined',
} as const;
const whole = (mbps: number) => Math.round(mbps);

/** A scan that was pasted, held against the network of a place: worked out here, sent nowhere. */
export function ScanCheck({
  network,
}: {
  network: { name?: string | undefined; security?: 'WPA' | 'SAE' | 'WEP' | 'nopass' | undefined };
}) {
  const [text, setText] = useState('');
  const read = useMemo(() => (text.trim() === '' ? null : readScan(text)), [text]);
  const found = read?.ok ? judgeScan(read.value, network) : null;
  return (
    <section aria-labelledby="scan" className="mt-8 max-w-[860px]">
      <h2 id="scan">Check a scan for “{network.name}”</h2>
      <label className="block text-ink-2 mt-1">
        Paste what <code className="font-mono">iw dev wlan0 scan</code> answers on the device, or a CSV with the columns ssid, signal, and
        channel or frequency.
        <textarea
          className="field block w-full h-auto mt-2 font-mono text-[12.5px]"
          rows={6}
          spellCheck={false}
          wrap="off"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <div role="status" className="mt-3">
        {read && !read.ok && (
          <p className="text-brick">
            {read.fault.place}: {read.fault.problem}; {read.fault.remedy}.
          </p>
        )}
        {found && read?.ok && (
          <>
            <p>
              <strong>{words[found.verdict]}</strong>
              {found.best && (
                <>
                  : channel {found.best.channel}, {found.best.widthMhz} MHz, {found.best.signalDbm} dBm
                  {found.usableMbps &&
                    `; ${whole(found.usableMbps.lowMbps)} to ${whole(found.usableMbps.highMbps)} Mbit/s for all on the channel together`}
                </>
              )}
              . {read.value.length === 1 ? 'One network was' : `${read.value.length} networks were`} found.
            </p>
            <ul className="mt-2">
              {found.tells.map(({ text: told, mend }) => (
                <li key={told} className="border-t border-rule py-1.5">
                  {told} <span className="text-ink-2">{mend}</span>
                </li>
              ))}
            </ul>
          </>
        )}
      </div>
    </section>
  );
}
