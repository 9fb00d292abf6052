import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post, Put, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { DoorRules, DoorRulesRequest, RoleRequest, UserRequest, UserView } from '@underpass/contracts';
import { z } from 'zod';
import { notFound, ProblemError } from '../problems/problem.js';
import { RulesService } from './rules.service.js';
import { SecurityLog } from '../securityLog/securityLog.service.js';
import { Confirmed, Needs, type SignedRequest } from './session.guard.js';
import { UsersService } from './users.service.js';
import { Answers, AnswersNothing } from '../edge/answers.js';

const Uuid = z.uuid();

/** Who may sign in and by what rules; for administrators only. */
@ApiTags('session')
@Needs('admin')
@Controller('users')
export class UsersController {
  constructor(
    private readonly users: UsersService,
    private readonly rules: RulesService,
    private readonly log: SecurityLog,
  ) {}

  @Get()
  @Answers(UserView.array())
  list(): Promise<UserView[]> {
    return this.users.list();
  }

  @Post()
  @Answers(UserView.array(), 201)
  @Confirmed()
  async add(@Body({ schema: UserRequest }) body: UserRequest, @Req() request: SignedRequest): Promise<UserView[]> {
    const added = await this.users.add(body.email, body.name, body.role, body.password);
    if (!added)
      throw new ProblemError(409, 'In use', `${body.email} may sign in already.`, [{ field: 'email', problem: 'may sign in already' }]);
    await this.log.recordOf('user added', request, `${body.email} as ${body.role}`);
    return this.users.list();
  }

  @Get('rules')
  @Answers(DoorRules)
  doorRules(): Promise<DoorRules> {
    return this.rules.get();
  }

  @Put('rules')
  @Answers(DoorRules)
  @Confirmed()
  async setRules(
    @Body({ schema: DoorRulesRequest }) { was, ...body }: z.infer<typeof DoorRulesRequest>,
    @Req() request: SignedRequest,
  ): Promise<DoorRules> {
    await this.rules.set(body, was);
    await this.log.recordOf(
      'rules changed',
      request,
      `idle ${body.idleMinutes} min; second factor for ${body.factorFor.join(', ') || 'nobody'}; kept: measurements ${body.keepMeasurementsYears} years, reports ${body.keepReportsDays}, log ${body.keepLogDays}, people who left ${body.keepLeftDays} days`,
    );
    return this.rules.get();
  }

  @Patch(':id')
  @Confirmed()
  @Answers(UserView.array())
  @HttpCode(200)
  async changeRole(
    @Param('id', { schema: Uuid }) id: string,
    @Body({ schema: RoleRequest }) { role }: RoleRequest,
    @Req() request: SignedRequest,
  ): Promise<UserView[]> {
    if (id === request.user.id) throw new ProblemError(409, 'Your own', 'You cannot change your own role. Another administrator can.');
    const user = await this.users.one(id);
    if (!user) throw notFound('sign-in', id);
    if (user.provider !== null) throw new ProblemError(409, 'Elsewhere', 'This person’s role comes from the organisation’s sign-in.');
    await this.users.changeRole(request.user.id, id, role);
    await this.log.recordOf('role changed', request, `${user.email} from ${user.role} to ${role}`);
    return this.users.list();
  }

  /** For somebody whose device is lost. */
  @Delete(':id/factor')
  @AnswersNothing()
  @Confirmed()
  @HttpCode(204)
  async removeFactor(@Param('id', { schema: Uuid }) id: string, @Req() request: SignedRequest): Promise<void> {
    const user = await this.users.one(id);
    if (!user) throw notFound('sign-in', id);
    await this.users.removeFactor(id);
    await this.log.recordOf('second factor removed', request, `of ${user.email}`);
  }

  /** Takes a sign-in away; what the person has open ends at once. */
  @Delete(':id')
  @AnswersNothing()
  @Confirmed()
  @HttpCode(204)
  async remove(@Param('id', { schema: Uuid }) id: string, @Req() request: SignedRequest): Promise<void> {
    if (id === request.user.id)
      throw new ProblemError(409, 'Your own', 'You cannot take your own sign-in away. Another administrator can.');
    const user = await this.users.one(id);
    if (!user || !(await this.users.remove(request.user.id, id))) throw notFound('sign-in', id);
    await this.log.recordOf('user removed', request, user.email);
  }
}
