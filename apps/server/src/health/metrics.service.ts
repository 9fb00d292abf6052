import { Injectable, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry, type OpenMetricsContentType } from 'prom-client';
import { monitorEventLoopDelay, type IntervalHistogram } from 'node:perf_hooks';
import { DataSource } from 'typeorm';
import { ResultsService } from '../crossing/results.service.js';
import { EstateStore } from '../estate/estate.store.js';
import { CheckGateway } from '../evidence/check.gateway.js';

/** Figures of how the server does, in the OpenMetrics text form. */
@Injectable()
export class MetricsService implements OnModuleInit, OnApplicationShutdown {
  private readonly registry = new Registry<OpenMetricsContentType>();
  private readonly requests: Histogram<'method' | 'status'>;
  private readonly evaluations: Counter;
  private readonly stalls: IntervalHistogram = monitorEventLoopDelay({ resolution: 10 });

  constructor(
    @InjectDataSource() private readonly data: DataSource,
    private readonly store: EstateStore,
    private readonly results: ResultsService,
    private readonly gateway: CheckGateway,
  ) {
    this.registry.setContentType(Registry.OPENMETRICS_CONTENT_TYPE);
    const registers = [this.registry] as never;
    this.requests = new Histogram({
      name: 'underpass_requests_seconds',
      help: 'Time of requests until their answer was sent',
      labelNames: ['method', 'status'],
      buckets: [0.01, 0.03, 0.1, 0.3, 1, 3, 10],
      registers,
    });
    this.evaluations = new Counter({ name: 'underpass_evaluations', help: 'Times that results stood for a new version', registers });
    const gauge = (name: string, help: string, read: () => number | Promise<number>) =>
      new Gauge({
        name: `underpass_${name}`,
        help,
        registers,
        async collect() {
          this.set(await read());
        },
      });
    gauge('stall_seconds', 'Longest hold-up of the event loop since the last reading', () => {
      const longest = this.stalls.max / 1e9;
      this.stalls.reset();
      return longest;
    });
    gauge('estate_version', 'Version of the estate that is shown', () => this.store.version);
    gauge('results_version', 'Version of the estate that is evaluated', () => this.results.version);
    gauge('estate_behind', 'Whether changes are not followed at the moment', () => (this.store.follows ? 0 : 1));
    gauge('check_sockets', 'Field checks that are open', () => this.gateway.open);
    gauge('check_queue', 'Field checks that wait for a place', () => this.gateway.waiting);
    gauge('database_up', 'Whether the database answers', () => this.answers());
  }

  onModuleInit(): void {
    this.stalls.enable();
    collectDefaultMetrics({ register: this.registry as never, prefix: 'underpass_' });
    this.results.ready.subscribe(() => this.evaluations.inc());
  }
  onApplicationShutdown(): void {
    this.stalls.disable();
    this.registry.clear();
  }

  took(method: string, status: number, seconds: number): void {
    this.requests.observe({ method, status: `${Math.floor(status / 100)}xx` }, seconds);
  }

  private async answers(): Promise<number> {
    try {
      await this.data.query('SELECT 1');
      return 1;
    } catch {
      return 0;
    }
  }

  async text(): Promise<{ type: string; body: string }> {
    return { type: this.registry.contentType, body: await this.registry.metrics() };
  }
}
