import { Controller, Get } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { GapsAnswer } from '@underpass/contracts';
import { computeFigures, GapsTally, tellGapStep } from '@underpass/core';
import { ResultsService } from '../crossing/results.service.js';
import { Answers } from '../edge/answers.js';
import { AtOnce } from '../edge/takes.js';
import { eachInSlices, KeptAnswers } from '../jobs/slices.js';

@ApiTags('intake')
@Controller('gaps')
export class GapsController {
  private readonly kept = new KeptAnswers<GapsAnswer>();

  constructor(private readonly results: ResultsService) {}

  /** What is measured, reported, declared, assumed or not known, and what is best learned next. */
  @Get()
  @Answers(GapsAnswer)
  @AtOnce('gaps', 2, 4)
  gaps(): Promise<GapsAnswer> {
    const { reader } = this.results;
    return this.kept.get(reader, 'all', async () => {
      const { model } = reader;
      const tally = new GapsTally();
      await eachInSlices(model.crossings, (ref) => {
        const facts = reader.read(ref);
        if (facts) tally.add(facts, computeFigures(facts));
      });
      const { facts, places, next, unknown, atLimit } = tally.result();
      return {
        at: new Date(reader.atMs).toISOString(),
        ...{ unknown, atLimit, facts },
        places: places.map((place) => ({ ...place, name: model.locations.get(place.location)?.name ?? place.location })),
        next: next.map((step) => ({
          action: tellGapStep(step, model),
          ...{ location: step.location, crossings: step.crossings, people: step.people, minutes: step.minutes },
          checks: step.acts
            .filter(({ way }) => way === 'field check')
            .flatMap(({ id, endpoints }) =>
              endpoints.map((endpoint) => ({ endpoint, name: model.endpoints.get(endpoint)?.name ?? endpoint, location: id })),
            ),
        })),
      };
    });
  }
}
