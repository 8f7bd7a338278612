/** People as a directory sees them: users of SCIM 2.0 (RFC 7643), read within bounds and written. */
import { type DirectoryIndex, isEmployed, mainPost, managerOf, type Person, recordOn } from '@north-pebble/core/people';
import { type CivilDate, NearDate } from '@north-pebble/core/time';
import { z } from 'zod';

export const userSchema = 'urn:ietf:params:scim:schemas:core:2.0:User';
export const enterpriseSchema = 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User';
/** What an organisation knows of its people that the standard has no name for. */
export const workSchema = 'urn:north-pebble:scim:2.0:Work';
export const listSchema = 'urn:ietf:params:scim:api:messages:2.0:ListResponse';
export const errorSchema = 'urn:ietf:params:scim:api:messages:2.0:Error';
export const patchSchema = 'urn:ietf:params:scim:api:messages:2.0:PatchOp';

const Text = z.string().trim().max(200);

const readOnly = z.unknown().optional();

/** What is taken over of a user, and what is only read here. What else it says is refused, so that nobody takes it for done. */
export const IncomingUser = z.strictObject({
  schemas: readOnly,
  id: readOnly,
  meta: readOnly,
  groups: readOnly,
  userName: Text.min(1),
  externalId: Text.nullish(),
  displayName: Text.nullish(),
  name: z.strictObject({ formatted: Text.nullish(), givenName: Text.nullish(), familyName: Text.nullish() }).nullish(),
  title: Text.nullish(),
  active: z.boolean().default(true),
  emails: z
    .array(
      z.strictObject({ value: Text, primary: z.boolean().nullish(), type: Text.nullish(), display: Text.nullish() }),
    )
    .max(1, 'One address of each person is kept here.')
    .nullish(),
  [enterpriseSchema]: z
    .strictObject({
      department: Text.nullish(),
      organization: Text.nullish(),
      employeeNumber: readOnly,
      manager: z.strictObject({ value: Text.nullish(), displayName: readOnly, $ref: readOnly }).nullish(),
    })
    .nullish(),
  [workSchema]: z.strictObject({ firstDay: NearDate.nullish() }).nullish(),
});
export type IncomingUser = z.infer<typeof IncomingUser>;

/** The name that a user is said to have; nothing where none is said, and who is on file keeps theirs. */
export function nameOf({ displayName, name }: IncomingUser): string | undefined {
  const parts = [name?.givenName, name?.familyName].filter(Boolean).join(' ');
  return displayName || name?.formatted || parts || undefined;
}

/** A name on file is one; its last word is told as the family's. */
function partsOf(name: string): { givenName?: string; familyName: string } {
  const at = name.lastIndexOf(' ');
  return at < 0 ? { familyName: name } : { givenName: name.slice(0, at), familyName: name.slice(at + 1) };
}

export const mailOf = ({ emails, userName }: IncomingUser): string =>
  (emails?.find(one => one.primary) ?? emails?.[0])?.value ?? (userName.includes('@') ? userName : '');

export type Known = { userName: string; externalId: string | null };

export function userOf(index: DirectoryIndex, person: Person, known: Known, today: CivilDate, base: string) {
  const record = recordOn(person, today);
  const manager = managerOf(index, person.id, today);
  return {
    schemas: [userSchema, enterpriseSchema, workSchema],
    id: person.id,
    ...(known.externalId === null ? {} : { externalId: known.externalId }),
    userName: known.userName,
    displayName: person.name,
    name: { formatted: person.name, ...partsOf(person.name) },
    active: isEmployed(person, today) || person.joined > today,
    title: mainPost(index, person.id, today)?.title ?? '',
    emails: [{ value: person.mail, primary: true }],
    [enterpriseSchema]: {
      employeeNumber: person.id,
      department: index.department(record?.department ?? '')?.name ?? '',
      organization: index.place(record?.place ?? '')?.name ?? '',
      ...('person' in manager ? { manager: { value: manager.person.id, displayName: manager.person.name } } : {}),
    },
    [workSchema]: { firstDay: person.joined },
    meta: { resourceType: 'User', location: `${base}/Users/${encodeURIComponent(person.id)}` },
  };
}
