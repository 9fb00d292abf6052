import { Global, Module, type DynamicModule } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import type { DataSourceOptions } from 'typeorm';
import { AccessModule } from './access/access.module.js';
import { BringupModule } from './bringup/bringup.module.js';
import { CONFIG, type Config } from './config.js';
import { CrossingModule } from './crossing/crossing.module.js';
import { dataSourceOptions, openDatabase } from './database/dataSource.js';
import { DemoLoader } from './demo/loader.js';
import { DemoPast } from './demo/pastLoader.js';
import { EdgeModule } from './edge/edge.module.js';
import { SecretsModule } from './secrets/secrets.module.js';
import { EstateModule } from './estate/estate.module.js';
import { ChannelModule } from './events/channel.module.js';
import { EventsModule } from './events/events.module.js';
import { EvidenceModule } from './evidence/evidence.module.js';
import { IntakeModule } from './intake/intake.module.js';
import { HealthModule } from './health/health.module.js';
import { JobsModule } from './jobs/jobs.module.js';
import { OutwardModule } from './outward/outward.module.js';
import { PeopleModule } from './people/people.module.js';
import { ProblemsModule } from './problems/problems.module.js';
import { SecurityLogModule } from './securityLog/securityLog.module.js';
import { SettingsModule } from './settings/settings.module.js';
import { SigninModule } from './signin/signin.module.js';
import { SignonModule } from './signon/signon.module.js';
import { ViewsModule } from './views/views.module.js';

/** Subjects, under the names they have in core and web. */
const subjects = [EstateModule, CrossingModule, AccessModule, SignonModule, EvidenceModule, BringupModule, SettingsModule, IntakeModule];
/** Rooms that serve them all. */
const rooms = [
  ChannelModule,
  SecretsModule,
  EdgeModule,
  OutwardModule,
  ProblemsModule,
  SecurityLogModule,
  SigninModule,
  JobsModule,
  PeopleModule,
  HealthModule,
  EventsModule,
  ViewsModule,
];

@Global()
@Module({})
class ConfigModule {
  static of(config: Config): DynamicModule {
    return { module: ConfigModule, providers: [{ provide: CONFIG, useValue: config }], exports: [CONFIG] };
  }
}

/** The whole server for a configuration. */
export class AppModule {
  static with(config: Config): DynamicModule {
    return {
      module: AppModule,
      imports: [
        ConfigModule.of(config),
        TypeOrmModule.forRootAsync({
          useFactory: () => ({ ...dataSourceOptions(config.databaseUrl), retryAttempts: 5, retryDelay: 1000, verboseRetryLog: false }),
          dataSourceFactory: (options) => openDatabase(options as DataSourceOptions),
        }),
        ...rooms,
        ...subjects,
      ],
      providers: [DemoLoader, DemoPast],
    };
  }
}
