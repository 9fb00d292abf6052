import { Controller, Sse, type MessageEvent } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { interval, map, merge, type Observable } from 'rxjs';
import { ResultsService } from '../crossing/results.service.js';
import { EstateStore } from '../estate/estate.store.js';

@ApiTags('events')
@Controller('events')
export class EventsController {
  constructor(
    private readonly results: ResultsService,
    private readonly store: EstateStore,
  ) {}

  /** Server-sent events: results for a new version, the progress of field checks, what portals report, and a beat that keeps the line open. */
  @Sse()
  events(): Observable<MessageEvent> {
    return merge(
      this.results.ready.pipe(map((ready) => ({ type: 'results', data: ready }))),
      this.store.notices.pipe(map((notice) => ({ type: notice.type, data: notice }))),
      interval(20_000).pipe(map((n) => ({ type: 'beat', data: { n } }))),
    );
  }
}
