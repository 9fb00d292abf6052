/** Type of an attribute [RFC 7643 2.3]. */
export type ScimType = 'string' | 'boolean' | 'reference' | 'complex' | 'dateTime' | 'integer' | 'decimal' | 'binary';

/** An attribute, with its characteristics [RFC 7643 2.2, 7]. What is left out is as the RFC has it by default. */
export interface ScimAttribute {
  name: string;
  type: ScimType;
  multiValued?: boolean;
  required?: boolean;
  caseExact?: boolean;
  mutability?: 'readOnly' | 'readWrite' | 'immutable' | 'writeOnly';
  returned?: 'always' | 'never' | 'default' | 'request';
  uniqueness?: 'none' | 'server' | 'global';
  canonicalValues?: readonly string[];
  referenceTypes?: readonly string[];
  subAttributes?: readonly ScimAttribute[];
  description: string;
}

/** A schema: its address, its name and its attributes. */
export interface ScimSchema {
  id: string;
  name: string;
  description: string;
  attributes: readonly ScimAttribute[];
}

const text = (name: string, description: string, more: Partial<ScimAttribute> = {}): ScimAttribute => ({
  ...{ name, type: 'string', description },
  ...more,
});
const parts = (
  name: string,
  description: string,
  subAttributes: readonly ScimAttribute[],
  more: Partial<ScimAttribute> = {},
): ScimAttribute => ({
  ...{ name, type: 'complex', description, subAttributes },
  ...more,
});
/** Several values, each with a type of which there are usual ones, and one that comes first [RFC 7643 2.4]. */
const several = (name: string, description: string, types: readonly string[] = [], value: Partial<ScimAttribute> = {}): ScimAttribute =>
  parts(
    name,
    description,
    [
      text('value', description, value),
      text('display', 'How it is shown'),
      text('type', 'What it is for', types.length ? { canonicalValues: types } : {}),
      { name: 'primary', type: 'boolean', description: 'Whether it comes first' },
    ],
    { multiValued: true },
  );

/** Attributes of every resource [RFC 7643 3.1]; they stand in no schema. */
export const commonAttributes: readonly ScimAttribute[] = [
  {
    name: 'schemas',
    type: 'reference',
    multiValued: true,
    required: true,
    returned: 'always',
    caseExact: true,
    description: 'Its schemas',
  },
  text('id', 'Key that this service gave it', { caseExact: true, mutability: 'readOnly', returned: 'always', uniqueness: 'server' }),
  text('externalId', 'Key that the client has for it', { caseExact: true }),
  parts(
    'meta',
    'When it came to be and was changed last',
    [
      text('resourceType', 'What it is', { caseExact: true }),
      { name: 'created', type: 'dateTime', description: 'When it came to be' },
      { name: 'lastModified', type: 'dateTime', description: 'When it was changed last' },
      { name: 'location', type: 'reference', description: 'Its address', caseExact: true },
      text('version', 'Its version', { caseExact: true }),
    ],
    { mutability: 'readOnly' },
  ),
];

/** A person [RFC 7643 4.1, 8.7.1]. */
export const userSchema: ScimSchema = {
  id: 'urn:ietf:params:scim:schemas:core:2.0:User',
  name: 'User',
  description: 'A person',
  attributes: [
    text('userName', 'Name the person signs in with', { required: true, uniqueness: 'server' }),
    parts('name', 'Parts of the name', [
      text('formatted', 'The whole name'),
      text('familyName', 'Family name'),
      text('givenName', 'Given name'),
      text('middleName', 'Middle names'),
      text('honorificPrefix', 'What stands before'),
      text('honorificSuffix', 'What stands behind'),
    ]),
    text('displayName', 'Name that is shown'),
    text('nickName', 'What the person is called'),
    { name: 'profileUrl', type: 'reference', referenceTypes: ['external'], description: 'A page about the person' },
    text('title', 'Title'),
    text('userType', 'How the person belongs to the organisation'),
    text('preferredLanguage', 'Language, as in Accept-Language'),
    text('locale', 'Where figures and dates are written so'),
    text('timezone', 'Time zone'),
    { name: 'active', type: 'boolean', description: 'Whether the person may sign in' },
    text('password', 'Never kept here', { mutability: 'writeOnly', returned: 'never' }),
    several('emails', 'Mail addresses', ['work', 'home', 'other']),
    several('phoneNumbers', 'Telephone numbers', ['work', 'home', 'mobile', 'fax', 'pager', 'other']),
    several('ims', 'Addresses of messengers'),
    several('photos', 'Pictures', ['photo', 'thumbnail'], { type: 'reference', referenceTypes: ['external'], caseExact: true }),
    parts(
      'addresses',
      'Postal addresses',
      [
        text('formatted', 'The whole address'),
        text('streetAddress', 'Street'),
        text('locality', 'Town'),
        text('region', 'Region'),
        text('postalCode', 'Postal code'),
        text('country', 'Country'),
        text('type', 'What it is for', { canonicalValues: ['work', 'home', 'other'] }),
        { name: 'primary', type: 'boolean', description: 'Whether it comes first' },
      ],
      { multiValued: true },
    ),
    parts(
      'groups',
      'Groups the person is in; changed at the groups',
      [
        text('value', 'Key of the group', { mutability: 'readOnly' }),
        { name: '$ref', type: 'reference', referenceTypes: ['User', 'Group'], mutability: 'readOnly', description: 'Address of the group' },
        text('display', 'Name of the group', { mutability: 'readOnly' }),
        text('type', 'Directly or through another group', { canonicalValues: ['direct', 'indirect'], mutability: 'readOnly' }),
      ],
      { multiValued: true, mutability: 'readOnly' },
    ),
    several('entitlements', 'What the person may'),
    several('roles', 'Roles'),
    several('x509Certificates', 'Certificates', [], { type: 'binary', caseExact: true }),
  ],
};

/** What an organisation says of its people [RFC 7643 4.3, 8.7.1]. */
export const enterpriseSchema: ScimSchema = {
  id: 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User',
  name: 'EnterpriseUser',
  description: 'A person in an organisation',
  attributes: [
    text('employeeNumber', 'Number of the person'),
    text('costCenter', 'Cost centre'),
    text('organization', 'Organisation'),
    text('division', 'Division'),
    text('department', 'Department'),
    parts('manager', 'Whom the person reports to', [
      text('value', 'Key of that person'),
      { name: '$ref', type: 'reference', referenceTypes: ['User'], description: 'Address of that person' },
      text('displayName', 'Name of that person', { mutability: 'readOnly' }),
    ]),
  ],
};

/** A group [RFC 7643 4.2, 8.7.1]. */
export const groupSchema: ScimSchema = {
  id: 'urn:ietf:params:scim:schemas:core:2.0:Group',
  name: 'Group',
  description: 'A group',
  attributes: [
    text('displayName', 'Name of the group', { required: true }),
    parts(
      'members',
      'Who is in it: people and groups',
      [
        text('value', 'Key of the member', { mutability: 'immutable' }),
        {
          name: '$ref',
          type: 'reference',
          referenceTypes: ['User', 'Group'],
          mutability: 'immutable',
          description: 'Address of the member',
        },
        text('type', 'What it is', { canonicalValues: ['User', 'Group'], mutability: 'immutable' }),
        text('display', 'Its name', { mutability: 'readOnly' }),
      ],
      { multiValued: true },
    ),
  ],
};

/** A kind of resource: its own schema, and those that may go with it [RFC 7643 6]. */
export interface ScimKind {
  name: 'User' | 'Group';
  endpoint: string;
  schema: ScimSchema;
  extensions: readonly ScimSchema[];
}
/** People [RFC 7643 6]. */
export const userKind: ScimKind = { name: 'User', endpoint: '/Users', schema: userSchema, extensions: [enterpriseSchema] };
/** Groups [RFC 7643 6]. */
export const groupKind: ScimKind = { name: 'Group', endpoint: '/Groups', schema: groupSchema, extensions: [] };

const lower = (name: string): string => name.toLowerCase();
/** An attribute of a list by its name, whatever its case [RFC 7643 2.1]. */
export const attributeIn = (list: readonly ScimAttribute[] | undefined, name: string): ScimAttribute | undefined =>
  list?.find((each) => lower(each.name) === lower(name));

/** An extension of a kind by its address, whatever its case. */
export const extensionOf = (kind: ScimKind, id: string): ScimSchema | undefined =>
  kind.extensions.find((each) => lower(each.id) === lower(id));
/** Attributes at the top of a resource of a kind. */
export const topOf = (kind: ScimKind): readonly ScimAttribute[] => [...commonAttributes, ...kind.schema.attributes];
