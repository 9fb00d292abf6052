import { SignonStep } from '@underpass/contracts';

export const signonSteps = SignonStep.options;
