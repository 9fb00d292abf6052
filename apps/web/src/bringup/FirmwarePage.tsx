import { useQuery } from '@tanstack/react-query';
import type { FirmwareList } from '@underpass/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { useTitle } from '../shell/useTitle.js';
import { Empty, NotHere } from '../ui/States.js';
import { useAction } from '../ui/useAction.js';
import { PutUp } from './PutUp.js';
import { Sheet } from './Sheet.js';
import { sendBytes } from './putUp.js';
import { bringupQueries } from './queries.js';
import { devicesWords, megabytes } from './words.js';

type File = FirmwareList['files'][number];

/** Firmware that is put up: what devices do with each file at their next start, and its bytes. */
export function FirmwarePage() {
  useTitle('Firmware');
  const canEdit = useCanEdit();
  const answer = useQuery(bringupQueries.firmware());
  if (!answer.data) return <NotHere asked={answer} awaits="what is put up" what="Firmware" />;
  const { files } = answer.data;
  const back = files.reduce((sum, { devices }) => sum + devices.down, 0);
  return (
    <Sheet back={{ to: '/bringup', name: 'Bring-up' }}>
      <h1>
        {back === 0
          ? 'No device is put back by the firmware that is up'
          : `${back === 1 ? 'One device is' : `${back} devices are`} put back to older firmware at the next start`}
      </h1>
      <p className="text-ink-2 max-w-[72ch]">
        A device installs what differs from what it has, higher or lower. It is offered the highest version that is up for its processor.
      </p>
      {[...new Map(files.map(({ deviceClass, devices }) => [deviceClass, devices.refuse]))].map(
        ([deviceClass, refuse]) =>
          refuse > 0 && (
            <p key={deviceClass} className="text-amber font-semibold">
              {refuse} of class {deviceClass} {refuse === 1 ? 'has a processor' : 'have processors'} for which no file is up: they stop at
              their start.
            </p>
          ),
      )}
      {files.length === 0 ? <Empty>No firmware is up. Put up a file, and it is seen here who installs it.</Empty> : <Files files={files} />}
      {canEdit && <PutUp />}
    </Sheet>
  );
}

function Files({ files }: { files: readonly File[] }) {
  return (
    <table className="w-full mt-5 max-[700px]:block">
      <thead className="max-[700px]:hidden">
        <tr className="text-left text-ink-3 border-b-[1.5px] border-ink">
          <th className="font-normal py-1.5 pr-4">File</th>
          <th className="font-normal py-1.5 pr-4">For</th>
          <th className="font-normal py-1.5 pr-4 text-right">Size</th>
          <th className="font-normal py-1.5 pr-4">At the next start</th>
          <th className="font-normal py-1.5">Its bytes</th>
        </tr>
      </thead>
      <tbody className="max-[700px]:block">
        {files.map((file) => (
          <tr key={file.id} className="border-b border-rule align-top max-[700px]:block max-[700px]:py-2">
            <td className="py-1.5 pr-4 max-[700px]:block">
              <Link
                className="link min-h-[24px] inline-flex items-center font-semibold"
                to={`/estate/firmware/${encodeURIComponent(file.id)}`}
              >
                {file.version}
              </Link>
              <span className="block mono text-ink-3">{file.id}</span>
            </td>
            <td className="py-1.5 pr-4 max-[700px]:block">
              {file.deviceClass}, {file.processor}
            </td>
            <td className="py-1.5 pr-4 text-right whitespace-nowrap max-[700px]:hidden">{megabytes(file.sizeMB)}</td>
            <td className="py-1.5 pr-4 max-[700px]:block">
              {devicesWords({ ...file.devices, refuse: 0 }).map(({ text, amber }) => (
                <span key={text} className={`block ${amber ? 'text-amber font-semibold' : ''}`}>
                  {text}
                </span>
              ))}
              {file.reason !== null && <span className="block text-ink-2">Reason: {file.reason}</span>}
            </td>
            <td className="py-1.5 max-[700px]:block">
              <Bytes file={file} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Whether its bytes are here, and the way to bring them. */
function Bytes({ file: { id, stored, sizeMB } }: { file: File }) {
  const canEdit = useCanEdit();
  const { busy, fault, run } = useAction();
  const [sent, setSent] = useState<{ bytes: number; of: number } | null>(null);
  const begun = stored && !stored.whole ? stored : null;
  const bring = (file: globalThis.File) =>
    run(async () => {
      // the rest of a file that broke off; another file begins anew
      const from = begun?.total === file.size && begun.here < begun.total ? begun.here : 0;
      setSent({ bytes: from, of: file.size });
      await sendBytes(id, file, from, (bytes) => setSent({ bytes, of: file.size })).finally(() => setSent(null));
      return { text: `The bytes of ${id} are here. Devices fetch them at their next start.` };
    });
  const forget = () =>
    run(async () => {
      await call(`bringup/firmware/${encodeURIComponent(id)}/bytes`, 'DELETE');
      return { text: `The bytes of ${id} are not kept any more.` };
    });
  return (
    <>
      <p role="status">
        {sent
          ? sent.bytes === sent.of
            ? 'Held against its sum ·····'
            : `${megabytes(sent.bytes / 1e6)} of ${megabytes(sent.of / 1e6)} sent`
          : stored?.whole
            ? 'Here, and its sum is right'
            : begun
              ? `${megabytes(begun.here / 1e6)} of ${megabytes(begun.total / 1e6)} came`
              : 'Not here: devices fetch it elsewhere'}
      </p>
      {stored?.whole && Math.abs(stored.total / 1e6 / sizeMB - 1) > 0.05 && (
        <p className="text-amber">
          The catalogue says {megabytes(sizeMB)}; it has {megabytes(stored.total / 1e6)}
        </p>
      )}
      {canEdit && !busy && (
        <p className="flex flex-wrap gap-x-3">
          <label className="link min-h-[24px] inline-flex items-center cursor-pointer focus-within:outline-2 outline-tile outline-offset-2">
            {begun ? 'Choose it again, to go on' : stored ? 'Bring it anew' : 'Bring its bytes'}
            <input
              type="file"
              className="sr-only"
              aria-label={`Bytes of ${id}, ${megabytes(sizeMB)}`}
              onChange={(event) => {
                const [file] = event.target.files ?? [];
                event.target.value = '';
                if (file) void bring(file);
              }}
            />
          </label>
          {stored && (
            <button className="link min-h-[24px]" onClick={() => void forget()}>
              Forget them
            </button>
          )}
        </p>
      )}
      {fault && (
        <p role="alert" className="text-brick max-w-[44ch]">
          {fault}
        </p>
      )}
    </>
  );
}
