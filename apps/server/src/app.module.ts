import type { DynamicModule } from '@nestjs/common';
import { APP_FILTER, APP_GUARD, APP_INTERCEPTOR, APP_PIPE } from '@nestjs/core';
import { TypeOrmModule } from '@nestjs/typeorm';
import type { DataSourceOptions } from 'typeorm';
import { SessionController } from './session/session.controller.js';
import { SessionGuard } from './session/session.guard.js';
import { SessionService } from './session/session.service.js';
import { AccountController } from './session/account.controller.js';
import { Patience } from './session/patience.service.js';
import { ProviderController } from './session/provider.controller.js';
import { ProviderService } from './session/provider.service.js';
import { RulesService } from './session/rules.service.js';
import { SecurityLogController } from './session/securityLog.controller.js';
import { SecurityLog } from './session/securityLog.service.js';
import { UsersController } from './session/users.controller.js';
import { UsersService } from './session/users.service.js';
import { AcceptanceController } from './access/acceptance.controller.js';
import { AcceptanceService } from './access/acceptance.service.js';
import { ConsequenceService } from './access/consequence.service.js';
import { GuestsController } from './access/guests.controller.js';
import { EntryLinkService } from './access/entryLink.service.js';
import { EntryLinksController } from './access/entryLinks.controller.js';
import { OpenLinkController } from './access/openLink.controller.js';
import { PortalController } from './access/portal.controller.js';
import { RequirementsController } from './access/requirements.controller.js';
import { SeesController } from './access/sees.controller.js';
import { SightingService } from './access/sighting.service.js';
import { CONFIG, type Config } from './config.js';
import { CrossingController } from './crossing/crossing.controller.js';
import { FindController } from './crossing/find.controller.js';
import { ImpactWork } from './crossing/impactWork.js';
import { ResultsService } from './crossing/results.service.js';
import { JobRunner } from './jobs/jobs.runner.js';
import { JobsController } from './jobs/jobs.controller.js';
import { JobsService } from './jobs/jobs.service.js';
import { dataSourceOptions, openDatabase } from './database/dataSource.js';
import { DemoLoader } from './demo.js';
import { ChangeService } from './estate/change.service.js';
import { PaperService } from './estate/paper.service.js';
import { EstateController } from './estate/estate.controller.js';
import { EstateStore } from './estate/estate.store.js';
import { ImportService } from './estate/import.service.js';
import { EventsController } from './events/events.controller.js';
import { CheckController } from './evidence/check.controller.js';
import { CheckGateway } from './evidence/check.gateway.js';
import { LinkService } from './evidence/link.service.js';
import { LinksController } from './evidence/links.controller.js';
import { TrustedProxies } from './edge/address.js';
import { AtOnceInterceptor } from './edge/atOnce.interceptor.js';
import { BodyInterceptor } from './edge/body.interceptor.js';
import { EdgePipe } from './edge/edge.pipe.js';
import { PublicOrigin } from './edge/publicOrigin.js';
import { Reading } from './edge/reading.service.js';
import { HealthController } from './health/health.controller.js';
import { MetricsService } from './health/metrics.service.js';
import { SignonController } from './signon/signon.controller.js';
import { PersonDataController } from './people/personData.controller.js';
import { PersonDataService } from './people/personData.service.js';
import { RetentionService } from './people/retention.service.js';
import { ProblemFilter } from './problems/problem.filter.js';

/** The whole server for a configuration. */
export class AppModule {
  static with(config: Config): DynamicModule {
    return {
      module: AppModule,
      imports: [
        TypeOrmModule.forRootAsync({
          useFactory: () => ({ ...dataSourceOptions(config.databaseUrl), retryAttempts: 5, retryDelay: 1000, verboseRetryLog: false }),
          dataSourceFactory: (options) => openDatabase(options as DataSourceOptions),
        }),
      ],
      controllers: [
        HealthController,
        SessionController,
        AccountController,
        ProviderController,
        UsersController,
        SecurityLogController,
        PersonDataController,
        CrossingController,
        FindController,
        EstateController,
        EventsController,
        JobsController,
        LinksController,
        CheckController,
        SeesController,
        GuestsController,
        AcceptanceController,
        EntryLinksController,
        OpenLinkController,
        RequirementsController,
        PortalController,
        SignonController,
      ],
      providers: [
        { provide: CONFIG, useValue: config },
        { provide: APP_GUARD, useClass: SessionGuard },
        { provide: APP_FILTER, useClass: ProblemFilter },
        { provide: APP_PIPE, useClass: EdgePipe },
        { provide: APP_INTERCEPTOR, useClass: AtOnceInterceptor },
        { provide: APP_INTERCEPTOR, useClass: BodyInterceptor },
        PublicOrigin,
        { provide: TrustedProxies, useFactory: ({ trustedProxy }: Config) => new TrustedProxies(trustedProxy), inject: [CONFIG] },
        Reading,
        EstateStore,
        SecurityLog,
        RulesService,
        Patience,
        SessionService,
        UsersService,
        ProviderService,
        MetricsService,
        ChangeService,
        PaperService,
        PersonDataService,
        RetentionService,
        ImportService,
        ResultsService,
        JobsService,
        ImpactWork,
        LinkService,
        CheckGateway,
        SightingService,
        ConsequenceService,
        AcceptanceService,
        EntryLinkService,
        DemoLoader,
        JobRunner,
      ],
    };
  }
}
