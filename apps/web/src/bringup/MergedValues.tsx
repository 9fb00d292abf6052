import type { BringupBoot } from '@underpass/contracts';

/** What the files of a device come to together, and where each value is from. */
export function MergedValues({ values }: Pick<BringupBoot, 'values'>) {
  if (values.length === 0) return null;
  return (
    <section aria-labelledby="values">
      <h2 id="values" className="mt-6">
        Settings it goes on with <span className="font-normal text-ink-3 ml-2">of all its files, the nearest counts</span>
      </h2>
      <table className="w-full mt-1">
        <thead>
          <tr className="text-left text-ink-3 border-b-[1.5px] border-ink">
            <th className="font-normal py-1 pr-4">Section and key</th>
            <th className="font-normal py-1 pr-4">Value</th>
            <th className="font-normal py-1">From</th>
          </tr>
        </thead>
        <tbody>
          {values.map(({ section, key, value, file, line }) => (
            <tr key={`${section}.${key}`} className="border-b border-rule">
              <td className="py-1 pr-4 font-mono text-[12.5px] [overflow-wrap:anywhere]">
                [{section}] {key}
              </td>
              <td className="py-1 pr-4 [overflow-wrap:anywhere]">{value}</td>
              <td className="py-1 text-ink-3 [overflow-wrap:anywhere]">
                {file}, line {line}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
