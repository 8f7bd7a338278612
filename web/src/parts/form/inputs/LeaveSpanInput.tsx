import type { FieldProps } from '../fieldFrame.ts';
import { SpanField } from '../SpanField.tsx';

export function LeaveSpanInput({ field, value, onChange, answers, fault, closed, highlighted, house }: FieldProps) {
  return (
    <SpanField
      label={field.label}
      value={value}
      onChange={onChange}
      times={house.leaveTypes.some(type => type.times && Object.values(answers).includes(type.id))}
      disabled={closed}
      fault={fault}
      help={field.help}
      highlighted={highlighted}
    />
  );
}
