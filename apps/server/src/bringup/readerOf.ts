import { assumedOf, BootReader, type EstateModel } from '@underpass/core';

const readers = new WeakMap<EstateModel, BootReader>();

/** Reads starts from a model; what they rest on beside the device is looked through once for each state of the estate. */
export function readerOf(model: EstateModel): BootReader {
  let reader = readers.get(model);
  if (!reader) {
    const { deviceClass, scope, configServer, configFile, firmware, gateway } = model.estate;
    reader = new BootReader(
      {
        ...{ deviceClass, scope, configServer, configFile, firmware, gateway },
        endpoint: (id) => model.endpoints.get(id),
        location: (id) => model.locations.get(id),
        assumed: assumedOf(model.organisation),
      },
      Date.now(),
    );
    readers.set(model, reader);
  }
  return reader;
}
