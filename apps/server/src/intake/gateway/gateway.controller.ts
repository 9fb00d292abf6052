import { Body, Controller, HttpCode, Param, Post, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { completed, GatewayLooked, Key, LookAtGateway, type Gateway } from '@underpass/contracts';
import type { z } from 'zod';
import { Answers } from '../../edge/answers.js';
import { AtOnce } from '../../edge/takes.js';
import { ChangeService } from '../../estate/change.service.js';
import { EstateStore } from '../../estate/estate.store.js';
import { AllowedTargets } from '../../outward/targets.js';
import { notFound, ProblemError } from '../../problems/problem.js';
import { Needs, type SignedRequest } from '../../signin/session.guard.js';
import { lookAtGateway } from './look.js';

/** Gateways, looked at when somebody asks. */
@ApiTags('intake')
@Controller('intake/gateways')
export class GatewayController {
  constructor(
    private readonly store: EstateStore,
    private readonly changes: ChangeService,
    private readonly targets: AllowedTargets,
  ) {}

  /** Greets a gateway at its address, if this server may connect there, and tells what it shows; taken over, it stands as told by itself. */
  @Post(':id/look')
  @Answers(GatewayLooked)
  @HttpCode(200)
  @Needs('engineer')
  @AtOnce('look at a gateway', 2, 6)
  async look(
    @Param('id', { schema: Key }) id: string,
    @Body({ schema: LookAtGateway }) { port, take, trust }: z.infer<typeof LookAtGateway>,
    @Req() { user }: SignedRequest,
  ): Promise<GatewayLooked> {
    const gateway = this.store.find('gateway', id) as Gateway | undefined;
    if (!gateway) throw notFound('gateway', id);
    const seen = await lookAtGateway(await this.targets.of(gateway.address, port));
    if (!take) return { seen, applied: null };
    const trusted = seen.public ? 'public' : trust;
    if (trusted === undefined)
      throw new ProblemError(422, 'Not valid', 'Not every system trusts its issuer: say whether your own devices do.', [
        { field: 'trust', problem: 'must be organisation or none' },
      ]);
    const { names, notBefore, notAfter, tlsHighest, tlsMinimum } = seen;
    const plan = () => {
      const before = this.store.find('gateway', id) as Gateway | undefined;
      if (before?.address !== gateway.address) throw new ProblemError(409, 'Changed meanwhile', 'It has another address now. Look again.');
      const after = { ...before, certificate: { names, notBefore, notAfter, trust: trusted }, tlsHighest, tlsMinimum };
      return [{ kind: 'gateway' as const, id, before, after: completed('gateway', after) }];
    };
    return { seen, applied: await this.changes.apply(plan, user.name, `${gateway.name} looked at`, { source: 'device' }) };
  }
}
