import { useState } from 'react';

type Chosen = ReadonlySet<string>;
const none: Chosen = new Set();

/** Rows that are chosen, by id. With another filter none are: nothing is done to rows that nobody sees. */
export function useChosenRows(filter: object): [chosen: Chosen, choose: (chosen: Chosen) => void] {
  const key = JSON.stringify(filter);
  const [state, setState] = useState({ key, chosen: none });
  return [state.key === key ? state.chosen : none, (chosen) => setState({ key, chosen })];
}
