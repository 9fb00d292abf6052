import { Controller, Req, Sse, type MessageEvent } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { catchError, exhaustMap, filter, finalize, from, interval, map, merge, of, share, take, takeUntil, type Observable } from 'rxjs';
import { ResultsService } from '../crossing/results.service.js';
import { tooMany } from '../problems/problem.js';
import type { SignedRequest } from '../signin/session.guard.js';
import { SessionService } from '../signin/session.service.js';
import { Channel } from './channel.service.js';
import { AnswersFile } from '../edge/answers.js';

/** How often a stream asks whether its session still stands, ms; what ends here or on another server is told at once. */
const askEveryMs = 10_000;
const mostOfOne = 30;
/** What others tell that is of use to a screen. */
const forScreens: ReadonlySet<string> = new Set(['check', 'sighting', 'job', 'boot']);

@ApiTags('events')
@Controller('events')
export class EventsController {
  private readonly open = new Map<string, number>();

  constructor(
    private readonly results: ResultsService,
    private readonly channel: Channel,
    private readonly sessions: SessionService,
  ) {}

  /** Server-sent events: results for a new version and how far they are, the progress of field checks, what portals report, and a beat that keeps the line open. */
  @Sse()
  @AnswersFile('text/event-stream')
  events(@Req() { user, token }: SignedRequest): Observable<MessageEvent> {
    const now = this.open.get(user.id) ?? 0;
    if (now >= mostOfOne) throw tooMany(10, 'Many pages of yours are open. Close some.');
    this.open.set(user.id, now + 1);
    const { told } = this.channel;
    // the stream ends with its session, and where the role changes it begins anew
    const ended = merge(interval(askEveryMs), told.pipe(filter((message) => message.type === 'sessions' && message.id === user.id))).pipe(
      exhaustMap(() => from(this.sessions.who(token, false)).pipe(catchError(() => of(user)))),
      filter((still) => still === null || still.role !== user.role),
      take(1),
      share(),
    );
    return merge(
      merge(
        this.results.ready.pipe(map((ready) => ({ type: 'results', data: ready }))),
        this.results.progress.pipe(map((progress) => ({ type: 'progress', data: progress }))),
        told.pipe(
          filter(({ type }) => forScreens.has(type)),
          map((message) => ({ type: message.type, data: message })),
        ),
        interval(20_000).pipe(map((n) => ({ type: 'beat', data: { n } }))),
      ).pipe(takeUntil(ended)),
      ended.pipe(map(() => ({ type: 'ended', data: {} }))),
    ).pipe(
      finalize(() => {
        const left = (this.open.get(user.id) ?? 1) - 1;
        if (left > 0) this.open.set(user.id, left);
        else this.open.delete(user.id);
      }),
    );
  }
}
