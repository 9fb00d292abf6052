import { Module } from '@nestjs/common';
import { APP_GUARD } from '@nestjs/core';
import { SessionGuard } from './session.guard.js';
import { EstateModule } from '../estate/estate.module.js';
import { SecurityLogModule } from '../securityLog/securityLog.module.js';
import { SessionController } from './session.controller.js';
import { AccountController } from './account.controller.js';
import { ProviderController } from './provider.controller.js';
import { UsersController } from './users.controller.js';
import { RulesService } from './rules.service.js';
import { Patience } from './patience.service.js';
import { SessionService } from './session.service.js';
import { UsersService } from './users.service.js';
import { ProviderService } from './provider.service.js';

/** Signing in to Underpass: who one is, and what one may. */
@Module({
  imports: [EstateModule, SecurityLogModule],
  controllers: [SessionController, AccountController, ProviderController, UsersController],
  providers: [{ provide: APP_GUARD, useClass: SessionGuard }, RulesService, Patience, SessionService, UsersService, ProviderService],
  exports: [RulesService, Patience, SessionService, UsersService],
})
export class SigninModule {}
