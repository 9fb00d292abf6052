import { Body, Controller, HttpCode, Param, Post, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { ObjectKindWord, partAt, SecretRequest, secretFields, ShownSecret, type ObjectKind } from '@underpass/contracts';
import { Answers } from '../edge/answers.js';
import { ProblemError } from '../problems/problem.js';
import { Sealing } from '../secrets/sealing.service.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { Needs, type SignedRequest } from '../signin/session.guard.js';
import { EstateStore } from './estate.store.js';

/** What is kept sealed of an object, opened for somebody who asks; that it was is in the log of the doors. */
@ApiTags('estate')
@Controller('estate')
export class SecretController {
  constructor(
    private readonly store: EstateStore,
    private readonly sealing: Sealing,
    private readonly log: SecurityLog,
  ) {}

  @Post(':kind/:id/shown')
  @Answers(ShownSecret)
  @HttpCode(200)
  @Needs('engineer')
  async shown(
    @Param('kind', { schema: ObjectKindWord }) kind: ObjectKind,
    @Param('id') id: string,
    @Body({ schema: SecretRequest }) { field }: SecretRequest,
    @Req() request: SignedRequest,
  ): Promise<ShownSecret> {
    const object = this.store.find(kind, id);
    const sealed = object && secretFields[kind].includes(field) ? partAt(object, field.split('.')) : undefined;
    if (typeof sealed !== 'string')
      throw new ProblemError(404, 'Not found', `${kind} ${id} keeps nothing sealed in “${field.slice(0, 40)}”.`);
    const value = this.sealing.opened(sealed);
    if (value === null)
      throw new ProblemError(422, 'Sealed elsewhere', 'It was sealed by another installation and cannot be opened here. Type it anew.');
    await this.log.recordOf('secret shown', request, `${field} of ${kind} ${id}`);
    return { value };
  }
}
