/** What is to be put right before a form goes: named in one line, and the first of it has the focus. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import type { Field, FieldFault } from '@north-pebble/core/form';
import { type RefObject, useEffect } from 'react';

/** Where one types or chooses. A date field keeps an input of its own out of sight beside the parts that one types in. */
const typable = 'input, textarea, [role="combobox"], [role="spinbutton"], button';

/** Where in a field one puts it right: a part of it that is wrong, else its first. */
function typedIn(form: HTMLElement | null, field: string): HTMLElement | null {
  const boxes = [...(form?.querySelectorAll<HTMLElement>('[data-field]') ?? [])];
  const box = boxes.find(one => one.dataset.field === field);
  const parts = [...(box?.querySelectorAll<HTMLElement>(typable) ?? [])].filter(
    part => part.getAttribute('aria-hidden') !== 'true' && part.tabIndex >= 0,
  );
  return parts.find(part => part.getAttribute('aria-invalid') === 'true') ?? parts[0] ?? null;
}

/**
 * Puts the focus on the first field that was refused, or on what is said where no field is: once for each refusal.
 * @param refusal what came back; another one each time
 */
export function useFocusOnRefusal(
  form: RefObject<HTMLElement | null>,
  refusal: unknown,
  faults: readonly FieldFault[],
): void {
  // biome-ignore lint/correctness/useExhaustiveDependencies: while the form is put right the focus stays where it is
  useEffect(() => {
    if (!refusal) return;
    const places = faults.flatMap(fault => typedIn(form.current, fault.field) ?? []);
    const [first] = places.sort((a, b) => (a.compareDocumentPosition(b) & Node.DOCUMENT_POSITION_FOLLOWING ? -1 : 1));
    (first ?? form.current?.querySelector<HTMLElement>('[role="alert"]'))?.focus();
  }, [refusal]);
}

/** The fields that are to be put right, by their names; each leads to its own. */
export function Faults({
  form,
  fields,
  faults,
}: {
  form: RefObject<HTMLElement | null>;
  fields: readonly Field[];
  faults: readonly FieldFault[];
}) {
  const wrong = fields.filter(field => faults.some(fault => fault.field === field.id));
  if (wrong.length === 0) return null;
  return (
    <Box role="alert" sx={{ mt: 1, color: 'error.main', fontSize: 14 }}>
      Put right before you send:{' '}
      {wrong.map((field, i) => (
        <span key={field.id}>
          {i > 0 && ', '}
          <Link
            component="button"
            type="button"
            color="inherit"
            onClick={() => typedIn(form.current, field.id)?.focus()}
          >
            {field.label}
          </Link>
        </span>
      ))}
      .
    </Box>
  );
}
