/** Something that the sealed trail does not bear out. */
export type AuditFault = { request: string; seq: number | null; words: string };
