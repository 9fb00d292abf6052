import { Body, Controller, Delete, Get, HttpCode, Param, Post, Req } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { UserRequest, type UserView } from '@underpass/contracts';
import { z } from 'zod';
import { notFound, ProblemError } from '../problems/problem.js';
import { Needs, type SignedRequest } from './session.guard.js';
import { SessionService } from './session.service.js';

const Uuid = z.uuid();

/** Who may sign in; for administrators only. */
@ApiTags('session')
@Needs('admin')
@Controller('users')
export class UsersController {
  constructor(private readonly sessions: SessionService) {}

  @Get()
  list(): Promise<UserView[]> {
    return this.sessions.users();
  }

  @Post()
  async add(@Body({ schema: UserRequest }) body: UserRequest): Promise<UserView[]> {
    const added = await this.sessions.ensureUser(body.email, body.name, body.role, body.password);
    if (!added)
      throw new ProblemError(409, 'In use', `${body.email} may sign in already.`, [{ field: 'email', problem: 'may sign in already' }]);
    return this.sessions.users();
  }

  /** Takes a sign-in away; what the person has open ends at once. */
  @Delete(':id')
  @HttpCode(204)
  async remove(@Param('id', { schema: Uuid }) id: string, @Req() request: SignedRequest): Promise<void> {
    if (id === request.user.id)
      throw new ProblemError(409, 'Your own', 'You cannot take your own sign-in away. Another administrator can.');
    if (!(await this.sessions.removeUser(id))) throw notFound('sign-in', id);
  }
}
