import type { Stage } from '../shell/stage.js';

/** Its screen is a part of the stage Access. */
export const signonStage: Stage = { routes: [], live: { results: ['signon'] } };
