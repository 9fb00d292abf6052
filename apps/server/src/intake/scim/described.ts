import { groupKind, userKind, type ScimAttribute, type ScimKind, type ScimSchema } from '@underpass/core';

/** The most that a list gives at once [RFC 7644 3.4.2.4]. */
export const mostListed = 200;

/** What this service does of what the standard lets one leave out [RFC 7643 5]. */
export const providerConfig = (base: string) => ({
  schemas: ['urn:ietf:params:scim:schemas:core:2.0:ServiceProviderConfig'],
  patch: { supported: true },
  bulk: { supported: false, maxOperations: 0, maxPayloadSize: 0 },
  filter: { supported: true, maxResults: mostListed },
  changePassword: { supported: false },
  sort: { supported: false },
  etag: { supported: true },
  authenticationSchemes: [
    {
      ...{ type: 'oauthbearertoken', name: 'Token', primary: true },
      description: 'A token that an administrator makes for the directory, sent as a bearer token [RFC 6750]',
      specUri: 'https://www.rfc-editor.org/info/rfc6750',
    },
  ],
  meta: { resourceType: 'ServiceProviderConfig', location: `${base}/ServiceProviderConfig` },
});

/** The kinds of resource there are [RFC 7643 6]. */
export const resourceTypes = (base: string) =>
  [userKind, groupKind].map(({ name, endpoint, schema, extensions }: ScimKind) => ({
    schemas: ['urn:ietf:params:scim:schemas:core:2.0:ResourceType'],
    ...{ id: name, name, endpoint, description: schema.description, schema: schema.id },
    ...(extensions.length ? { schemaExtensions: extensions.map(({ id }) => ({ schema: id, required: false })) } : {}),
    meta: { resourceType: 'ResourceType', location: `${base}/ResourceTypes/${name}` },
  }));

/** An attribute with all its characteristics said [RFC 7643 7]. */
function attribute({ subAttributes, ...own }: ScimAttribute): object {
  const usual = { multiValued: false, required: false, caseExact: false, mutability: 'readWrite', returned: 'default', uniqueness: 'none' };
  return { ...usual, ...own, ...(subAttributes ? { subAttributes: subAttributes.map(attribute) } : {}) };
}
export const schemas = (base: string) =>
  [userKind, groupKind]
    .flatMap(({ schema, extensions }): readonly ScimSchema[] => [schema, ...extensions])
    .map(({ id, name, description, attributes }) => ({
      schemas: ['urn:ietf:params:scim:schemas:core:2.0:Schema'],
      ...{ id, name, description, attributes: attributes.map(attribute) },
      meta: { resourceType: 'Schema', location: `${base}/Schemas/${id}` },
    }));
