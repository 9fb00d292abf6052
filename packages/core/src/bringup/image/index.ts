export {
  checkFirstBoot,
  firstBootModes,
  firstBootText,
  passwordRules,
  readFirstBoot,
  type FirstBoot,
  type FirstBootProblem,
} from './firstBoot.js';
export { matchImage, type Fit, type ImageMatch } from './match.js';
export { ReadBack, type ReadBackResult } from './readBack.js';
export { writableTarget, type CardTarget } from './target.js';
export { countriesOf, countriesOfLayout, layoutsOf, offsetMinutes, sameZone } from './whereabouts.js';
