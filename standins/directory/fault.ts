/** Faults as RFC 7644 section 3.12 writes them. */
export type ScimType =
  | 'invalidFilter'
  | 'tooMany'
  | 'uniqueness'
  | 'mutability'
  | 'invalidSyntax'
  | 'invalidPath'
  | 'noTarget'
  | 'invalidValue'
  | 'invalidVers'
  | 'sensitive';

export class Fault extends Error {
  readonly status: number;
  readonly scimType: ScimType | undefined;
  constructor(status: number, detail: string, scimType?: ScimType) {
    super(detail);
    this.status = status;
    this.scimType = scimType;
  }
  body() {
    return {
      schemas: ['urn:ietf:params:scim:api:messages:2.0:Error'],
      status: String(this.status),
      ...(this.scimType ? { scimType: this.scimType } : {}),
      detail: this.message,
    };
  }
}
export const bad = (scimType: ScimType, detail: string): Fault => new Fault(400, detail, scimType);
