import type { Firmware, TransferAnswer, TransferQuery } from '@underpass/contracts';
import { assumedOf, firmwareDecision, planTransfer, shareBy, worksAt, type EstateModel, type TransferWay } from '@underpass/core';
import { readerOf } from './readerOf.js';

/** Rate within a place, Mbit/s: a wired network of today; common practice, no source. */
const localMbps = 1000;
const hourMs = 3_600_000;
/** Above this part of the line it is felt: what is rounded does not count. */
const slack = 1.001;

/** How what the devices of a place will install at their next start comes to them over its line. */
export function transferTo(
  model: EstateModel,
  place: string,
  { begin, working, outside }: TransferQuery,
  nowMs: number,
): TransferAnswer | null {
  const location = model.locations.get(place);
  if (!location) return null;
  const assumed = assumedOf(model.organisation);
  const reader = readerOf(model);
  const wanted = new Map<string, { file: Firmware; devices: number; down: number }>();
  for (const id of model.endpointsAt.get(place) ?? []) {
    const facts = reader.read(id);
    if (!facts || !reader.isDescribed(facts.endpoint.deviceClass)) continue;
    const { does, offered } = firmwareDecision(facts.endpoint, facts.firmware);
    if (!offered || (does !== 'up' && does !== 'down')) continue;
    const entry = wanted.get(offered.id) ?? { file: offered, devices: 0, down: 0 };
    wanted.set(offered.id, { ...entry, devices: entry.devices + 1, down: entry.down + Number(does === 'down') });
  }
  const files = [...wanted.values()].map(({ file: { id, version, sizeMB }, devices, down }) => ({ id, version, sizeMB, devices, down }));
  const devices = files.reduce((sum, each) => sum + each.devices, 0);
  const beginMs = begin === undefined ? Math.ceil(nowMs / hourMs) * hourMs : Date.parse(begin);
  const lineMbps = location.downMbps === undefined ? null : location.downMbps * (1 - assumed.lines[location.lineKind].framingShare);
  const works = (atMs: number) => worksAt(location, assumed.day, atMs);
  const allowed = shareBy(location, assumed.day, working / 100, outside / 100);
  const ways: TransferAnswer['ways'] = [];
  if (lineMbps !== null && devices > 0) {
    const megabytes = files.reduce((sum, each) => sum + each.sizeMB * each.devices, 0);
    const once = files.reduce((sum, each) => sum + each.sizeMB, 0);
    const ask = (way: TransferWay) =>
      planTransfer({
        ...{ way, lineMbps, localMbps, beginMs },
        // of several files the mean size goes to each device; with a copy each file goes over the line once
        devices: way === 'once, then from a copy at the place' ? 1 : devices,
        sizeMB: way === 'once, then from a copy at the place' ? once : megabytes / devices,
        // without a plan nobody holds it back
        shareAt: way === 'all at once' ? () => 1 : allowed,
      });
    for (const way of ['all at once', 'one after the other', 'once, then from a copy at the place'] as const) {
      const { endS, meanS, hours } = ask(way);
      const inside = way === 'once, then from a copy at the place' ? ((megabytes - once) * 8) / localMbps : 0;
      ways.push({
        way,
        endS: endS === null ? null : endS + inside,
        meanS: meanS === null ? null : meanS + inside,
        workingHours: hours.some(({ atMs, usedMbps }) => works(atMs) && usedMbps > (lineMbps * working * slack) / 100),
        hours: hours.map(({ atMs, usedMbps, allowedMbps }) => ({
          at: new Date(atMs).toISOString(),
          usedMbps,
          allowedMbps,
          works: works(atMs),
        })),
      });
    }
  }
  return { devices, files, lineMbps, timeZone: location.timeZone, beginAt: new Date(beginMs).toISOString(), ways };
}
