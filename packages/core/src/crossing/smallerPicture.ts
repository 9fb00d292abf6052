import { asIf } from '../change/index.js';
import type { CrossingFacts } from './facts.js';
import type { CrossingFigures } from './figures.js';
import { type Proposal } from './finding.js';
import { plural } from '../units/words.js';
import { setHere } from './setHere.js';

/** What makes a picture smaller, for the place whose line it is. */
export function smallerPicture(facts: CrossingFacts, { session, settings, wanted }: CrossingFigures): Proposal[] {
  const { resource } = facts;
  const tallest = Math.max(...session.screens.map((screen) => Math.min(screen.heightPx, screen.widthPx)));
  const fewest = Math.max(15, wanted.framesAtLeast);
  const proposals = [1440, 1080]
    .filter((height) => height < tallest)
    .map((height) => setHere(facts, 'picture.heldHeight', height, (where) => `Hold screens ${where} at ${height}p`));
  if (settings['picture.frameCap'] > fewest)
    proposals.push(setHere(facts, 'picture.frameCap', fewest, (where) => `Cap the picture ${where} at ${plural(fewest, 'frame')}`));
  if (session.codec === 'h264' || session.codec === 'progressive' || session.codec === 'bitmap')
    proposals.push(setHere(facts, 'picture.codec', 'hevc', (where) => `Code the picture ${where} in H.265`));
  if (session.codec === 'progressive' || session.codec === 'bitmap')
    proposals.push(setHere(facts, 'picture.codec', 'h264', (where) => `Code the picture ${where} in H.264`));
  if (session.screens.length > 1) proposals.push(setHere(facts, 'screens.most', 1, (where) => `Use one screen ${where}`));
  if (resource.kind === 'desktop' && resource.onlyApp)
    proposals.push({ text: `Publish ${resource.onlyApp} as an app`, change: asIf('resource', resource.id, { kind: 'app' }) });
  return proposals;
}
