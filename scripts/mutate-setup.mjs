// Loaded before the tests while faults are put in: properties try few inputs, or each fault would take minutes.
import fc from 'fast-check';

fc.configureGlobal({ numRuns: 25 });
