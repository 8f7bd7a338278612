import type { FieldProps } from '../fieldFrame.ts';
import { SpanField } from '../SpanField.tsx';

export function LeaveSpanInput({ field, value, onChange, answers, fault, closed, highlighted, house }: FieldProps) {
  const may = (what: 'times' | 'openEnd') =>
    house.leaveTypes.some(type => type[what] && Object.values(answers).includes(type.id));
  return (
    <SpanField
      label={field.label}
      value={value}
      onChange={onChange}
      times={may('times')}
      openEnd={may('openEnd')}
      disabled={closed}
      fault={fault}
      help={field.help}
      highlighted={highlighted}
    />
  );
}
