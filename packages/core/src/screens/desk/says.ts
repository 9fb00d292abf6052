import type { PortKind } from '@underpass/contracts';
import type { DeskFault } from './check.js';
import type { ScreenMend } from './mend.js';
import type { PathPart } from './path.js';

const partWords: Record<PathPart, string> = { port: 'port', adapter: 'adapter', cable: 'cable', input: 'socket of the screen' };
/** Kinds of ways as they are said; what stands in files stands behind. */
export const wayWords: Record<PortKind, string> = {
  internal: 'built in',
  dvi: 'DVI',
  'hdmi-1.4': 'HDMI 1.4',
  'hdmi-2.0': 'HDMI 2.0',
  'dp-hbr': 'DisplayPort HBR',
  'dp-hbr2': 'DisplayPort HBR2',
  'dp-hbr3': 'DisplayPort HBR3',
  'usb-c-2-lane': 'USB-C with two lanes',
};
const article = (part: PathPart): string => (part === 'adapter' ? 'an' : 'a');
const list = (parts: readonly string[]): string => parts.join(' and ');
const gbps = (rate: number): string => rate.toFixed(1);
const megapixels = (pixels: number): string => (pixels / 1e6).toFixed(1);

/** What is wrong with an arrangement, and what to do. @param nameOf what a screen is called */
export function deskFaultSays(fault: DeskFault, nameOf: (screen: number) => string): { what: string; todo: string } {
  const [a = 0, b = 0] = fault.screens;
  const several = fault.screens.map(nameOf).join(', ');
  switch (fault.code) {
    case 'mode does not pass':
      return {
        what: `${nameOf(a)} needs ${gbps(fault.neededGbps)} Gbit/s; its ${partWords[fault.part]} (${wayWords[fault.kind]}) carries ${gbps(fault.usableGbps)}.`,
        todo: fault.highestHz > 0 ? `It falls to ${fault.highestHz} Hz, or stays dark.` : 'It stays dark, or shows a smaller picture.',
      };
    case 'too many screens':
      return {
        what: `The client takes ${fault.most === 1 ? 'one screen' : `${fault.most} screens`}; ${several} ${fault.screens.length === 1 ? 'stays' : 'stay'} out of the session.`,
        todo: fault.screens.length === 1 ? 'Mirror it, or leave it to local work.' : 'Mirror them, or leave them to local work.',
      };
    case 'too many pixels':
      return {
        what: `The screens have ${megapixels(fault.pixels)} million pixels; the ${fault.of} takes ${megapixels(fault.most)}.`,
        todo: 'Set a smaller size, or leave one out.',
      };
    case 'overlap':
      return { what: `${nameOf(a)} and ${nameOf(b)} lie upon each other by ${fault.byPx} px.`, todo: 'Move one beside the other.' };
    case 'gap':
      return {
        what: `Between ${nameOf(a)} and ${nameOf(b)} is a gap of ${fault.byPx} px: the pointer does not cross it.`,
        todo: 'Move them together.',
      };
    case 'corner':
      return {
        what: `${nameOf(a)} and ${nameOf(b)} meet at a corner only: the pointer does not get across.`,
        todo: 'Give them a part of an edge in common.',
      };
    case 'several primaries':
      return { what: `${several} are all said to be the primary one.`, todo: 'Choose one.' };
    case 'primary not at origin':
      return {
        what: `${nameOf(a)} is the primary one and lies at ${fault.x}, ${fault.y}: windows open where nobody looks.`,
        todo: 'Put it at 0, 0.',
      };
    case 'mixed scales':
      return {
        what: `The screens have the scales ${fault.scales.join(' and ')}; the client takes one: text is the wrong size on some.`,
        todo: `Give all of them ${fault.scales[0]}.`,
      };
    case 'text of another size':
      return {
        what: `Text on ${nameOf(b)} is ${fault.factor.toFixed(1)} times as large as on ${nameOf(a)}.`,
        todo: 'Raise the scale of the one where it is small.',
      };
    case 'mirror of another shape':
      return { what: `${nameOf(a)} mirrors ${nameOf(b)} and has another shape: the picture has black edges.`, todo: 'Extend instead.' };
    case 'restart first':
      return { what: `A thin client often counts ${several} only after a restart.`, todo: 'Restart it once they are plugged in.' };
  }
}

/** A way to get a picture through, in words. */
export function screenMendSays(mend: ScreenMend): string {
  switch (mend.code) {
    case 'better parts':
      return `Give it ${list(mend.parts.map(({ part, kind }) => `${article(part)} ${partWords[part]} of ${wayWords[kind]}`))}: the mode passes`;
    case 'another way':
      return `Use ${wayWords[mend.kind]} all the way: the mode passes`;
    case 'slower':
      return `${mend.refreshHz} Hz at the same size`;
    case 'smaller':
      return `${mend.screen.widthPx} × ${mend.screen.heightPx} at ${mend.screen.refreshHz} Hz`;
    case 'quartered':
      return `Colours at a quarter of the detail, ${gbps(mend.neededGbps)} of ${gbps(mend.usableGbps)} Gbit/s, if device and screen can: thin coloured text is blurred`;
  }
}
