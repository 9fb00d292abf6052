// Examples of RFC 7643 and RFC 7644, typed from memory: the RFCs’ site is not reached from here. Addresses and names are the RFCs’ own
// invented ones, shortened.

/** A person with all that the core schema and the enterprise one know [RFC 7643 8.3]. */
export const fullUser = {
  schemas: ['urn:ietf:params:scim:schemas:core:2.0:User', 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User'],
  id: '2819c223-7f76-453a-919d-413861904646',
  externalId: '701984',
  userName: 'bjensen@example.com',
  name: {
    formatted: 'Ms. Barbara J Jensen, III',
    familyName: 'Jensen',
    givenName: 'Barbara',
    middleName: 'Jane',
    honorificPrefix: 'Ms.',
    honorificSuffix: 'III',
  },
  displayName: 'Babs Jensen',
  nickName: 'Babs',
  profileUrl: 'https://login.example.com/bjensen',
  emails: [
    { value: 'bjensen@example.com', type: 'work', primary: true },
    { value: 'babs@jensen.org', type: 'home' },
  ],
  addresses: [
    {
      streetAddress: '100 Universal City Plaza',
      locality: 'Hollywood',
      region: 'CA',
      postalCode: '91608',
      country: 'US',
      formatted: '100 Universal City Plaza\nHollywood, CA 91608 US',
      type: 'work',
    },
    { locality: 'Hollywood', type: 'home' },
  ],
  phoneNumbers: [
    { value: '555-555-5555', type: 'work' },
    { value: '555-555-4444', type: 'mobile' },
  ],
  ims: [{ value: 'someaimhandle', type: 'aim' }],
  userType: 'Employee',
  title: 'Tour Guide',
  preferredLanguage: 'en-US',
  locale: 'en-US',
  timezone: 'America/Los_Angeles',
  active: true,
  password: 't1meMa$heen',
  groups: [{ value: 'e9e30dba-f08f-4109-8486-d5c6a331660a', $ref: 'https://example.com/v2/Groups/e9e30dba', display: 'Tour Guides' }],
  'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User': {
    employeeNumber: '701984',
    costCenter: '4130',
    organization: 'Universal Studios',
    division: 'Theme Park',
    department: 'Tour Operations',
    manager: { value: '26118915-6090-4610-87e4-49d8ca9f808d', displayName: 'John Smith' },
  },
  meta: { resourceType: 'User', created: '2010-01-23T04:56:22Z', lastModified: '2011-05-13T04:42:34Z', version: 'W/"3694e05e9dff591"' },
};

/** Filters of RFC 7644 figure 2, and whether they ask for the person above. */
export const filters: readonly (readonly [string, boolean])[] = [
  ['userName eq "bjensen"', false],
  ['userName eq "BJensen@example.com"', true],
  [`name.familyName co "O'Malley"`, false],
  ['name.familyName co "Jens"', true],
  ['userName sw "J"', false],
  ['userName sw "B"', true],
  ['urn:ietf:params:scim:schemas:core:2.0:User:userName sw "J"', false],
  ['urn:ietf:params:scim:schemas:core:2.0:User:userName sw "b"', true],
  ['title pr', true],
  ['meta.lastModified gt "2011-05-13T04:42:34Z"', false],
  ['meta.lastModified ge "2011-05-13T04:42:34Z"', true],
  ['meta.lastModified lt "2011-05-13T04:42:34Z"', false],
  ['meta.lastModified le "2011-05-13T04:42:34Z"', true],
  ['title pr and userType eq "Employee"', true],
  ['title pr or userType eq "Intern"', true],
  ['schemas eq "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User"', true],
  ['userType eq "Employee" and (emails co "example.com" or emails.value co "example.org")', true],
  ['userType ne "Employee" and not (emails co "example.com" or emails.value co "example.org")', false],
  ['userType eq "Employee" and (emails.type eq "work")', true],
  ['userType eq "Employee" and emails[type eq "work" and value co "@example.com"]', true],
  ['userType eq "Employee" and emails[type eq "home" and value co "@example.com"]', false],
  ['emails[type eq "work" and value co "@example.com"] or ims[type eq "xmpp" and value co "@foo.com"]', true],
];

/** Changes of RFC 7644 3.5.2, and what they come to of a group or a person. */
export const babs = {
  display: 'Babs Jensen',
  $ref: 'https://example.com/v2/Users/2819c223',
  value: '2819c223-7f76-453a-919d-413861904646',
};
/** The other member of those examples. */
export const james = {
  display: 'James Smith',
  $ref: 'https://example.com/v2/Users/08e1d05d',
  value: '08e1d05d-121c-4561-8b96-473d93df9210',
};
