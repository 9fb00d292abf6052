import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { DuctsAnswer, PluggedAnswer, PlugRequest, RulesAnswer, type Peripheral } from '@underpass/contracts';
import {
  bestOf,
  computeFigures,
  decide,
  ductsOf,
  plugIn,
  rulesInOrder,
  seenDevices,
  shadowed,
  sideOf,
  whyNotThere,
  type CrossingFacts,
  type FactsReader,
} from '@underpass/core';
import { ResultsService } from '../crossing/results.service.js';
import { Answers } from '../edge/answers.js';
import { AtOnce, MB, Takes } from '../edge/takes.js';
import { eachInSlices, KeptAnswers } from '../jobs/slices.js';
import { PaperService } from '../estate/paper.service.js';
import { notFound, ProblemError } from '../problems/problem.js';
import { Needs } from '../signin/session.guard.js';

const mostUnnamed = 200;

@ApiTags('settings')
@Controller('redirection')
export class RedirectionController {
  private readonly answers = new KeptAnswers<RulesAnswer>();

  constructor(
    private readonly results: ResultsService,
    private readonly paper: PaperService,
  ) {}

  /** The rules in their order, with what each decides in the estate. */
  @Get()
  @Answers(RulesAnswer)
  @AtOnce('rules', 2, 4)
  rules(): Promise<RulesAnswer> {
    const { reader } = this.results;
    return this.answers.get(reader, '', () => this.count(reader));
  }

  private async count(reader: FactsReader): Promise<RulesAnswer> {
    const { model } = reader;
    const rules = rulesInOrder(model.all('usbRule').values());
    const hidden = new Map(shadowed(rules).map(({ rule, by }) => [rule.id, by.name ?? by.id]));
    const decides = new Map<string, number>();
    const unnamed: RulesAnswer['unnamed'] = [];
    await eachInSlices([...model.all('peripheral').values()], (device) => {
      const found = this.decided(reader, device);
      if (found === undefined) return;
      // keys and pointer are the session’s own input, and want no rule
      if (found === null && bestOf(device).carriedAs === 'session input') return;
      if (found === null) {
        if (unnamed.length < mostUnnamed) unnamed.push({ device, endpoint: model.endpoints.get(device.endpoint)?.name ?? device.endpoint });
      } else decides.set(found, (decides.get(found) ?? 0) + 1);
    });
    return {
      rules: rules.map((rule) => ({ rule, devices: decides.get(rule.id) ?? 0, shadowedBy: hidden.get(rule.id) ?? null })),
      unnamed,
      devices: model.all('peripheral').size,
    };
  }

  /** The rule that decides a device of the estate for whoever sits there; null where none does, undefined where none is asked. */
  private decided(reader: FactsReader, device: Peripheral): string | null | undefined {
    const endpoint = reader.model.endpoints.get(device.endpoint);
    const [ref] = endpoint ? reader.model.crossingsOn(endpoint) : [];
    const facts = ref && reader.read(ref);
    if (!facts) return undefined;
    const { settings, session } = computeFigures(facts);
    const { rule, decision } = decide(device, sideOf(facts, settings, session), facts.rules);
    return rule ? rule.id : decision === 'not allowed' ? null : undefined;
  }

  /** What goes through on a crossing, function by function. */
  @Get(':crossing')
  @Answers(DuctsAnswer)
  ducts(@Param('crossing') id: string): DuctsAnswer {
    return ducted(this.factsOf(id));
  }

  /** The same as it would be after a change. */
  @Post(':crossing/after')
  @Answers(DuctsAnswer)
  @Takes(MB)
  @HttpCode(200)
  @Needs('reader')
  after(
    @Param('crossing') id: string,
    @Body({ schema: PlugRequest.pick({ change: true }) }) { change }: Pick<PlugRequest, 'change'>,
  ): DuctsAnswer {
    return ducted(this.factsOf(id, change));
  }

  /** What happens when a device is plugged in, step by step, and why it does not appear. */
  @Post(':crossing/plug')
  @Answers(PluggedAnswer)
  @Takes(MB)
  @HttpCode(200)
  @Needs('reader')
  plug(@Param('crossing') id: string, @Body({ schema: PlugRequest }) { device, answers, change }: PlugRequest): PluggedAnswer {
    const facts = this.factsOf(id, change);
    const plugged = plugIn(facts, computeFigures(facts), device, answers);
    const { decision, ...rest } = plugged;
    const { rule, when, why } = decision;
    return {
      ...rest,
      ...{ decision: decision.decision, rule: rule && { id: rule.id, name: rule.name ?? rule.id }, when, why },
      ...whyNotThere(plugged),
    };
  }

  private factsOf(id: string, change?: PlugRequest['change']): CrossingFacts {
    const ref = this.results.ref(id);
    if (!ref) throw notFound('crossing', id);
    if (change) this.paper.assertGood(change);
    const reader = change ? this.results.reader.after(change) : this.results.reader;
    const facts = reader.read(ref);
    if (!facts) throw new ProblemError(422, 'Not valid', 'After this change the crossing would be no more.');
    return facts;
  }
}

const ducted = (facts: CrossingFacts): DuctsAnswer => ({
  crossing: facts.ref.id,
  between: { person: facts.person.name, endpoint: facts.endpoint.id, location: facts.location.name, resource: facts.resource.name },
  ducts: ductsOf(facts, computeFigures(facts)),
  devices: [...facts.devices, ...seenDevices(facts.evidence.plugged?.value ?? [], facts.endpoint.id, facts.devices)],
  groups: [...facts.subject.groups],
});
