import type { Peripheral } from '@underpass/contracts';
import { useState } from 'react';
import { fromBrowser, fromBytes, fromText, type UsbOfBrowser } from './readDevice.js';

/** Reads a device that the estate does not know: from what lsusb -v printed, from binary descriptors, or from the one this browser is let see. */
export function ReadDevice({ endpoint, onRead }: { endpoint: string; onRead: (devices: Peripheral[]) => void }) {
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const usb = (navigator as { usb?: UsbOfBrowser }).usb;
  const take = (read: ReturnType<typeof fromText>) => {
    if ('fault' in read) {
      setFault(read.fault);
      setTold(null);
      return;
    }
    setFault(null);
    setTold(`${read.devices.length} ${read.devices.length === 1 ? 'device' : 'devices'} read. Choose one above.`);
    onRead(read.devices);
  };
  return (
    <details className="mt-4">
      <summary className="cursor-pointer font-semibold min-h-[24px]">A device that is not in the estate</summary>
      <label className="block mt-2 text-ink-2">
        Paste what <span className="mono">lsusb -v</span> printed. It stays in this browser.
        <textarea
          className="field w-full h-[96px] py-1 mono"
          value={text}
          spellCheck={false}
          onChange={({ target }) => setText(target.value)}
        />
      </label>
      <p className="flex flex-wrap gap-2 mt-1">
        <button className="btn btn-small" disabled={text.trim() === ''} onClick={() => take(fromText(text, endpoint))}>
          Read it
        </button>
        <label className="btn btn-small relative">
          Read binary descriptors
          <input
            type="file"
            className="absolute inset-0 opacity-0 cursor-pointer"
            aria-label="Read binary descriptors from a file"
            onChange={({ target }) => {
              const file = target.files?.[0];
              if (file) void file.arrayBuffer().then((bytes) => take(fromBytes(new Uint8Array(bytes), endpoint)));
            }}
          />
        </label>
        {usb && (
          <button
            className="btn btn-small"
            onClick={() =>
              void usb.requestDevice({ filters: [] }).then(
                (seen) => take({ devices: [fromBrowser(seen, endpoint)] }),
                () => setFault('No device was chosen, or this browser may not see any.'),
              )
            }
          >
            One at this computer
          </button>
        )}
      </p>
      {fault && (
        <p role="alert" className="text-brick mt-1">
          {fault}
        </p>
      )}
      {told && (
        <p role="status" className="text-ink-2 mt-1">
          {told}
        </p>
      )}
    </details>
  );
}
