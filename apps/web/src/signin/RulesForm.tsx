import { useQuery, useQueryClient } from '@tanstack/react-query';
import { zodResolver } from '@hookform/resolvers/zod';
import { DoorRulesForm, type DoorRules, type Role } from '@underpass/contracts';
import { call, orLookAgain } from '../api/client.js';
import { useSent } from '../ui/form/useSent.js';
import { signinQueries } from './queries.js';
import { Failed, Loading } from '../ui/States.js';

const numbers = [
  ['idleMinutes', 'End a session after', 'minutes without anybody there', '5 to 720'],
  ['keepMeasurementsYears', 'Keep measurements', 'years, the current one included', '1 to 20'],
  ['keepReportsDays', 'Keep reports and verdicts', 'days: sign-ins at portals, history of verdicts', '7 to 3650'],
  ['keepLogDays', 'Keep the log of the doors', 'days', '30 to 3650'],
  ['keepLeftDays', 'Forget people who left', 'days after: guests past their end, names in the history of changes', '0 to 3650'],
] as const;
const roles: [Role, string][] = [
  ['reader', 'readers'],
  ['engineer', 'engineers'],
  ['admin', 'administrators'],
];

/** What an administrator chooses about sign-ins and about how long things are kept. */
export function RulesForm() {
  const rules = useQuery(signinQueries.rules());
  if (rules.isPending) return <Loading what="the rules" />;
  if (!rules.data) return <Failed what="The rules" error={rules.error as Error} onRetry={() => void rules.refetch()} />;
  return <Form rules={rules.data} />;
}

function Form({ rules }: { rules: DoorRules }) {
  const client = useQueryClient();
  const texts = Object.fromEntries(numbers.map(([key]) => [key, String(rules[key])])) as Record<(typeof numbers)[number][0], string>;
  const { queryKey } = signinQueries.rules();
  const form = useSent(
    {
      // what somebody else put in force shows wherever nothing was typed
      values: { ...texts, factorFor: rules.factorFor },
      resetOptions: { keepDirtyValues: true },
      resolver: zodResolver(DoorRulesForm),
    },
    async (wanted) => {
      const sent = call<DoorRules>('users/rules', 'PUT', { ...wanted, was: rules });
      const kept = await orLookAgain(sent, () => client.refetchQueries({ queryKey }));
      client.setQueryData(queryKey, kept);
      form.reset();
      return { text: 'The rules are in force from now on.' };
    },
  );
  return (
    <form
      className="grid grid-cols-1 min-[640px]:grid-cols-[190px_1fr] gap-y-2 mt-2 items-baseline"
      noValidate
      onSubmit={(event) => void form.send()(event)}
    >
      <span id="factor-for">Ask for a second factor of</span>
      <div role="group" aria-labelledby="factor-for" className="flex gap-5">
        {roles.map(([role, word]) => (
          <label key={role} className="flex gap-1.5 items-center">
            <input type="checkbox" value={role} {...form.register('factorFor')} />
            {word}
          </label>
        ))}
        <span className="text-brick">{form.faultOf('factorFor')}</span>
      </div>
      {numbers.map(([key, label, unit, range]) => {
        const fault = form.faultOf(key);
        return (
          <div key={key} className="contents">
            <label htmlFor={`rule-${key}`}>{label}</label>
            <div>
              <input
                id={`rule-${key}`}
                className="field w-[80px] text-right"
                inputMode="numeric"
                aria-invalid={fault !== undefined}
                aria-describedby={`rule-${key}-more`}
                {...form.register(key)}
              />
              <span className="ml-2 text-ink-2">{unit}</span>
              <span id={`rule-${key}-more`} className={`ml-3 ${fault ? 'text-brick' : 'text-ink-3 text-[12.5px]'}`}>
                {fault ?? range}
              </span>
            </div>
          </div>
        );
      })}
      <div className="min-[640px]:col-start-2 mt-1">
        <button className="btn btn-primary">Put these rules in force</button>
        <p role="alert" className="text-brick empty:hidden">
          {form.fault}
        </p>
      </div>
    </form>
  );
}
