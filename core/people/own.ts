/** Whose a request is. */

/** A request is somebody's own when they asked for it, and when it is about them: nobody decides either. */
export const isTheirOwn = (
  { asker, subject }: { readonly asker?: string | null; readonly subject?: string | null },
  person: string,
): boolean => person === asker || person === subject;
