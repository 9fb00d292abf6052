import { z } from 'zod';
import { folderFiles, objectKinds, objectSchemas } from '../estate/estate.js';
import { Measurement } from '../estate/measurement.js';
import { measurementsFile } from './folder.js';

/** JSON Schema of each file of an estate folder, from the one definition. */
export const jsonSchemas = (): Record<string, unknown> => ({
  ...Object.fromEntries(objectKinds.map((kind) => [folderFiles[kind], z.toJSONSchema(z.array(objectSchemas[kind]), { io: 'input' })])),
  [measurementsFile]: z.toJSONSchema(z.array(Measurement), { io: 'input' }),
});
