import { queryOptions } from '@tanstack/react-query';
import type { Board, LeadingFinding } from '@underpass/core';
import { call } from '../api/client.js';

export interface BoardAnswer {
  version: number;
  at: string;
  board: Board;
  leading: LeadingFinding[];
}

export const boardQuery = () => queryOptions({ queryKey: ['board'], queryFn: () => call<BoardAnswer>('board') });
