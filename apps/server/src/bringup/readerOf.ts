import { assumedOf, BootReader, type EstateModel } from '@underpass/core';

/** How long a reader's clock stands, ms: certificates end by the day, and a clock that is off is told by the hour. */
const standsMs = 600_000;
const readers = new WeakMap<EstateModel, { reader: BootReader; madeMs: number }>();

/** Reads starts from a model as they would be now; what they rest on beside the device is looked through once for each state of the estate. */
export function readerOf(model: EstateModel, nowMs = Date.now()): BootReader {
  const known = readers.get(model);
  if (known && nowMs - known.madeMs < standsMs) return known.reader;
  const { deviceClass, scope, configServer, configFile, firmware, gateway } = model.estate;
  const reader = new BootReader(
    {
      ...{ deviceClass, scope, configServer, configFile, firmware, gateway },
      endpoint: (id) => model.endpoints.get(id),
      location: (id) => model.locations.get(id),
      assumed: assumedOf(model.organisation),
    },
    nowMs,
  );
  readers.set(model, { reader, madeMs: nowMs });
  return reader;
}
