import type { Peripheral, UsbMatch, UsbRule } from '@underpass/contracts';
import { sortOf, tripleOf } from '@underpass/core';

/** A rate as it stands in a duct, Mbit/s. */
export const figureText = (mbps: number): string =>
  mbps === 0 ? '–' : mbps < 0.1 ? mbps.toFixed(2) : mbps < 10 ? mbps.toFixed(1) : String(Math.round(mbps));

/** What a rule is for, in words. */
export function matchText(match: UsbMatch): string {
  const parts = [
    match.vid && match.pid ? `${match.vid}:${match.pid}` : match.vid ? `vendor ${match.vid}` : match.pid ? `product ${match.pid}` : '',
    match.class ? `${match.class} ${sortOf(tripleOf(match.class)).name}` : '',
    match.revision ? `revision ${match.revision}` : '',
    match.serial ? `serial ${match.serial}` : '',
    match.hidBoot === undefined ? '' : match.hidBoot ? 'keyboard or pointer' : 'no keyboard or pointer',
    match.ownership ? `${match.ownership} device` : '',
    match.group ? `group ${match.group}` : '',
  ].filter(Boolean);
  return parts.length === 0 ? 'everything' : parts.join(', ');
}

/** How a rule has something carried. */
export const carriedText = (rule: UsbRule): string =>
  rule.action === 'deny' ? 'not allowed' : rule.interfaces ? `only ${rule.interfaces.join(', ')}` : (rule.carryAs ?? 'as is best');

/** What a device is, in a few words. */
export const deviceText = ({ name, vid, pid, interfaces, class: code }: Peripheral): string =>
  `${name ?? sortOf(tripleOf(interfaces[0] ?? code)).name} ${vid}:${pid}`;

/** Functions of a device that a rule could be split by: classes it has, each once. */
export const classesOf = ({ interfaces, class: code }: Peripheral): string[] => [
  ...new Set((interfaces.length > 0 ? interfaces : [code]).map((each) => each.slice(0, 2))),
];
