import type { Change, Layer } from '@underpass/contracts';
import { noChange, type CrossingView } from '@underpass/core';
import { useState } from 'react';
import type { Control } from './controls.js';
import type { CrossingAnswer } from './crossingAnswer.js';

type Target = { target: string; name: string };

/** Places at which a setting of this crossing may stand. */
function targetsOf({ person, endpoint, location, group }: CrossingAnswer['between']): Partial<Record<Layer, Target>> {
  return {
    organisation: { target: '*', name: 'everybody' },
    location: { target: location.id, name: location.name },
    person: { target: person.id, name: person.name },
    endpoint: { target: endpoint.id, name: endpoint.name },
    'device class': { target: endpoint.deviceClass, name: `every ${endpoint.deviceClass.replaceAll('-', ' ')}` },
    ...(group ? { group: { target: group, name: `group ${group}` } } : {}),
  };
}

/** What is chosen among the settings of a crossing, as steps of the change that is tried, and for whom they are. */
export function useTried(
  { between }: CrossingAnswer,
  now: CrossingView,
  change: Change,
  remedy: string | null,
  onChange: (change: Change, text: string | null) => void,
) {
  const [layer, setLayer] = useState<Layer>('location');
  const targets = targetsOf(between);
  const settings = change.patches.filter((patch) => patch.do === 'setting');
  return {
    targets,
    hasSettings: settings.length > 0,
    layer: settings[0]?.layer ?? layer,
    /** Chooses a value; the one that is in force takes the step away. */
    choose: (control: Control, option: string) => {
      // at home everybody has a line of their own, and so settings of their own
      const at = between.location.ownLines && layer === 'location' ? 'endpoint' : layer;
      const target = targets[at]?.target;
      if (target === undefined) return;
      const others = change.patches.filter((patch) => !(patch.do === 'setting' && patch.key === control.key));
      const back = control.read(now.settings[control.key]) === option;
      const step = { do: 'setting' as const, key: control.key, layer: at, target, value: control.write(option) };
      onChange({ ...change, patches: back ? others : [...others, step] }, null);
    },
    /** Puts what was chosen at another layer. */
    move: (next: Layer) => {
      setLayer(next);
      const target = targets[next]?.target;
      if (target === undefined) return;
      const patches = change.patches.map((patch) => (patch.do === 'setting' ? { ...patch, layer: next, target } : patch));
      onChange({ ...change, patches }, remedy);
    },
    back: () => onChange(noChange, null),
  };
}
