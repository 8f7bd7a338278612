/** What the directory keeps, as RFC 7643 describes it: users with the enterprise extension, groups, and shared spaces. */

export type Attribute = {
  readonly name: string;
  readonly type: 'string' | 'boolean' | 'dateTime' | 'reference' | 'complex';
  readonly multiValued: boolean;
  readonly required: boolean;
  readonly caseExact: boolean;
  readonly mutability: 'readOnly' | 'readWrite' | 'immutable' | 'writeOnly';
  readonly returned: 'always' | 'never' | 'default' | 'request';
  readonly uniqueness: 'none' | 'server';
  readonly description: string;
  readonly canonicalValues?: readonly string[];
  readonly subAttributes?: readonly Attribute[];
};

const attribute = (name: string, description: string, more: Partial<Attribute> = {}): Attribute => ({
  name,
  description,
  type: 'string',
  multiValued: false,
  required: false,
  caseExact: false,
  mutability: 'readWrite',
  returned: 'default',
  uniqueness: 'none',
  ...more,
});
const complex = (name: string, description: string, subAttributes: Attribute[], more: Partial<Attribute> = {}) =>
  attribute(name, description, { type: 'complex', subAttributes, ...more });
const several = (name: string, description: string, types: string[]) =>
  complex(
    name,
    description,
    [
      attribute('value', 'The value itself.'),
      attribute('display', 'As it is shown.'),
      attribute('type', 'What it is for.', types.length > 0 ? { canonicalValues: types } : {}),
      attribute('primary', 'Whether it is the first choice.', { type: 'boolean' }),
    ],
    { multiValued: true },
  );
const reference = (name: string, description: string, more: Partial<Attribute> = {}) =>
  complex(
    name,
    description,
    [
      attribute('value', 'The id.', { caseExact: true, ...(more.multiValued ? { mutability: 'immutable' } : {}) }),
      attribute('$ref', 'The address.', { type: 'reference', caseExact: true, mutability: 'readOnly' }),
      attribute('type', 'User or Group.', { canonicalValues: ['User', 'Group'] }),
      attribute(more.multiValued ? 'display' : 'displayName', 'The name.', { mutability: 'readOnly' }),
    ],
    more,
  );

/** Attributes that every resource has. */
export const common: readonly Attribute[] = [
  attribute('schemas', 'The schemas that it follows.', {
    multiValued: true,
    required: true,
    returned: 'always',
    caseExact: true,
  }),
  attribute('id', 'The id that the directory gave it.', {
    mutability: 'readOnly',
    returned: 'always',
    caseExact: true,
    uniqueness: 'server',
  }),
  attribute('externalId', 'The id that whoever made it knows it by.', { caseExact: true }),
  complex(
    'meta',
    'What the directory says of it.',
    [
      attribute('resourceType', 'Its type.', { caseExact: true, mutability: 'readOnly' }),
      attribute('created', 'When it was made.', { type: 'dateTime', mutability: 'readOnly' }),
      attribute('lastModified', 'When it last changed.', { type: 'dateTime', mutability: 'readOnly' }),
      attribute('location', 'Its address.', { type: 'reference', caseExact: true, mutability: 'readOnly' }),
      attribute('version', 'Its entity tag.', { caseExact: true, mutability: 'readOnly' }),
    ],
    { mutability: 'readOnly' },
  ),
];

export type Schema = {
  readonly id: string;
  readonly name: string;
  readonly description: string;
  readonly attributes: readonly Attribute[];
};

export const userSchema: Schema = {
  id: 'urn:ietf:params:scim:schemas:core:2.0:User',
  name: 'User',
  description: 'An account.',
  attributes: [
    attribute('userName', 'The name of the account.', { required: true, uniqueness: 'server' }),
    complex('name', 'The parts of the person’s name.', [
      attribute('formatted', 'The whole name.'),
      attribute('familyName', 'The family name.'),
      attribute('givenName', 'The given name.'),
      attribute('middleName', 'Middle names.'),
      attribute('honorificPrefix', 'Before the name.'),
      attribute('honorificSuffix', 'Behind the name.'),
    ]),
    attribute('displayName', 'The name as it is shown.'),
    attribute('nickName', 'The name that the person goes by.'),
    attribute('title', 'The post.'),
    attribute('userType', 'Employee, contractor, guest.'),
    attribute('preferredLanguage', 'The language that the person reads.'),
    attribute('locale', 'How dates and numbers are written.'),
    attribute('timezone', 'The zone that the person works in.'),
    attribute('active', 'Whether the account can be used.', { type: 'boolean' }),
    attribute('password', 'A first password.', { mutability: 'writeOnly', returned: 'never', caseExact: true }),
    several('emails', 'Mail addresses.', ['work', 'home', 'other']),
    several('phoneNumbers', 'Telephone numbers.', ['work', 'home', 'mobile', 'other']),
    several('roles', 'Roles.', []),
    complex(
      'groups',
      'The groups that it is in.',
      [
        attribute('value', 'The id of the group.', { mutability: 'readOnly', caseExact: true }),
        attribute('$ref', 'Its address.', { type: 'reference', mutability: 'readOnly', caseExact: true }),
        attribute('display', 'Its name.', { mutability: 'readOnly' }),
        attribute('type', 'Direct or indirect.', { mutability: 'readOnly', canonicalValues: ['direct', 'indirect'] }),
      ],
      { multiValued: true, mutability: 'readOnly' },
    ),
  ],
};

export const enterpriseSchema: Schema = {
  id: 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User',
  name: 'EnterpriseUser',
  description: 'Where the person works.',
  attributes: [
    attribute('employeeNumber', 'The id on file.'),
    attribute('costCenter', 'The cost centre.'),
    attribute('organization', 'The place.'),
    attribute('division', 'The division.'),
    attribute('department', 'The department.'),
    reference('manager', 'The line manager.'),
  ],
};

/** This directory’s own: when an account was last used. */
export const useSchema: Schema = {
  id: 'urn:north-pebble:scim:2.0:Use',
  name: 'Use',
  description: 'How the account is used.',
  attributes: [attribute('lastUsed', 'When it was last used.', { type: 'dateTime' })],
};

const members = reference('members', 'Who is in it.', { multiValued: true });

export const groupSchema: Schema = {
  id: 'urn:ietf:params:scim:schemas:core:2.0:Group',
  name: 'Group',
  description: 'A group of accounts.',
  attributes: [attribute('displayName', 'Its name.', { required: true, uniqueness: 'server' }), members],
};

export const spaceSchema: Schema = {
  id: 'urn:north-pebble:scim:2.0:Space',
  name: 'Space',
  description: 'A place where several keep papers together.',
  attributes: [
    attribute('displayName', 'Its name.', { required: true, uniqueness: 'server' }),
    reference('owner', 'Who answers for it.', { required: true }),
    attribute('visibility', 'Who finds it.', { canonicalValues: ['members', 'house', 'everybody'] }),
    attribute('memberRights', 'What members may do.', { canonicalValues: ['read', 'add', 'change'] }),
    attribute('guests', 'Whether people from outside may be let in.', { type: 'boolean' }),
    attribute('closed', 'Whether nobody adds to it any more.', { type: 'boolean' }),
    members,
  ],
};

export type TypeName = 'User' | 'Group' | 'Space';
export type ResourceType = {
  readonly name: TypeName;
  /** Where its resources are. */
  readonly endpoint: string;
  readonly schema: Schema;
  readonly extensions: readonly Schema[];
};

export const types: readonly ResourceType[] = [
  { name: 'User', endpoint: '/Users', schema: userSchema, extensions: [enterpriseSchema, useSchema] },
  { name: 'Group', endpoint: '/Groups', schema: groupSchema, extensions: [] },
  { name: 'Space', endpoint: '/Spaces', schema: spaceSchema, extensions: [] },
];
export const schemas: readonly Schema[] = types.flatMap(type => [type.schema, ...type.extensions]);

const same = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();
export const named = (attributes: readonly Attribute[] | undefined, name: string): Attribute | undefined =>
  attributes?.find(one => same(one.name, name));

/** Where an attribute stands: in an extension or in the core, and its sub-attribute where one is named. */
export type Place = {
  readonly extension: Schema | null;
  readonly attribute: Attribute;
  readonly sub: Attribute | null;
};

/** `userName`, `name.familyName`, `urn:…:User:department`; nothing when the type has no such attribute. */
export function placeOf(type: ResourceType, path: string): Place | undefined {
  let rest = path;
  let extension: Schema | null = null;
  let own: readonly Attribute[] = [...common, ...type.schema.attributes];
  for (const schema of [type.schema, ...type.extensions]) {
    if (!same(path.slice(0, schema.id.length + 1), `${schema.id}:`)) continue;
    rest = path.slice(schema.id.length + 1);
    if (schema !== type.schema) {
      extension = schema;
      own = schema.attributes;
    }
  }
  const [name, sub, ...more] = rest.split('.');
  const attribute = more.length > 0 ? undefined : named(own, name);
  if (!attribute) return undefined;
  if (sub === undefined) return { extension, attribute, sub: null };
  const found = named(attribute.subAttributes, sub);
  return found && { extension, attribute, sub: found };
}
