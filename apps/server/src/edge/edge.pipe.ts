import { StandardSchemaValidationPipe, type ArgumentMetadata } from '@nestjs/common';
import { faultOfTexts } from '@underpass/contracts';
import { notValid } from '../problems/problem.js';

/** Everything that comes in: texts that can be kept, in the form the route’s schema asks for. */
export class EdgePipe extends StandardSchemaValidationPipe {
  constructor() {
    super({ exceptionFactory: notValid });
  }

  override async transform<T>(value: T, metadata: ArgumentMetadata): Promise<T> {
    if (metadata.type !== 'custom') {
      const fault = faultOfTexts(value, metadata.type === 'param' && metadata.data ? [metadata.data] : []);
      if (fault) throw notValid([fault]);
    }
    return super.transform(value, metadata);
  }
}
