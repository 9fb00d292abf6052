import { Injectable, StandardSchemaValidationPipe, type ArgumentMetadata } from '@nestjs/common';
import { faultOfTexts } from '@underpass/contracts';
import { Sealing } from '../secrets/sealing.service.js';
import { notValid } from '../problems/problem.js';

/** Everything that comes in: texts that can be kept, in the form the route’s schema asks for, its secrets sealed. */
@Injectable()
export class EdgePipe extends StandardSchemaValidationPipe {
  constructor(private readonly sealing: Sealing) {
    super({ exceptionFactory: notValid });
  }

  override async transform<T>(value: T, metadata: ArgumentMetadata): Promise<T> {
    if (metadata.type !== 'custom') {
      const fault = faultOfTexts(value, metadata.type === 'param' && metadata.data ? [metadata.data] : []);
      if (fault) throw notValid([fault]);
    }
    const taken = (await super.transform(value, metadata)) as T;
    return metadata.type === 'body' ? this.sealing.sealed(taken) : taken;
  }
}
