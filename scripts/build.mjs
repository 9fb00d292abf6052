import { ensureBuilt, ensureModules } from './ready.mjs';
ensureModules();
ensureBuilt();
