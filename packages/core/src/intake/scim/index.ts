export { ScimError, type ScimFault } from './error.js';
export { matches, parseFilter, type Filter } from './filter.js';
export { patched, type PatchOperation } from './patch.js';
export { membersOf, personOf, type PlaceFrom, type ScimPerson } from './person.js';
export { readResource, type ScimResource } from './resource.js';
export { commonAttributes, groupKind, userKind, type ScimAttribute, type ScimKind, type ScimSchema } from './schema.js';
export { shownResource, type Wanted } from './shown.js';
