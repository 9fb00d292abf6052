import { queryOptions } from '@tanstack/react-query';
import type { Board, LeadingFinding } from '@underpass/core';
import { call } from '../api/client.js';
import { regional } from '../ui/figures.js';

export interface BoardAnswer {
  version: number;
  at: string;
  board: Board;
  leading: LeadingFinding[];
}

const withRegion = (answer: BoardAnswer): BoardAnswer => ({ ...answer, leading: regional(answer.leading) });

export const boardQuery = () => queryOptions({ queryKey: ['board'], queryFn: async () => withRegion(await call<BoardAnswer>('board')) });
