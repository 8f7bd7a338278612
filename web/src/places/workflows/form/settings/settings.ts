/** What the settings of a kind are given. */
import type { Field } from '@north-pebble/core/form';
import type { Definition } from '@north-pebble/core/workflow';

export type SettingsProps<F extends Field = Field> = {
  field: F;
  definition: Definition;
  /** Sets some of its settings; what is undefined goes. */
  change: (next: Partial<Record<string, unknown>>) => void;
};
