/** What a phrase can be instead: one small form for each kind of phrase. */
import type { DirectoryIndex } from '@north-pebble/core/people';
import type { Definition, Edit } from '@north-pebble/core/workflow';
import { ChecklistEditor, EffectEditor, UntilEditor } from './EffectEditors.tsx';
import { FormulaEditor } from './FormulaEditor.tsx';
import { GuestEditor } from './GuestEditor.tsx';
import { GoEditor, OutcomeEditor } from './LeadEditors.tsx';
import { LimitEditor } from './LimitEditor.tsx';
import { PeopleEditor } from './PeopleEditor.tsx';
import { PlanEditor } from './PlanEditor.tsx';
import {
  ChoiceEditor,
  ComparatorEditor,
  CountEditor,
  FieldsEditor,
  TextEditor,
  ValueEditor,
} from './SimpleEditors.tsx';
import type { Done } from './shared.tsx';
import { ValuesEditor } from './ValuesEditor.tsx';

type Props = { edit: Edit; definition: Definition; index: DirectoryIndex | undefined; onDone: Done };

export function PhraseEditor({ edit, ...rest }: Props) {
  switch (edit.kind) {
    case 'value':
      return <ValueEditor edit={edit} {...rest} />;
    case 'comparator':
      return <ComparatorEditor edit={edit} {...rest} />;
    case 'formula':
      return <FormulaEditor edit={edit} {...rest} />;
    case 'people':
      return <PeopleEditor edit={edit} {...rest} />;
    case 'limit':
      return <LimitEditor edit={edit} {...rest} />;
    case 'plan':
      return <PlanEditor edit={edit} {...rest} />;
    case 'guest':
      return <GuestEditor edit={edit} {...rest} />;
    case 'count':
      return <CountEditor edit={edit} {...rest} />;
    case 'fields':
      return <FieldsEditor edit={edit} {...rest} />;
    case 'go':
      return <GoEditor edit={edit} {...rest} />;
    case 'outcome':
      return <OutcomeEditor edit={edit} {...rest} />;
    case 'until':
      return <UntilEditor edit={edit} {...rest} />;
    case 'effect':
      return <EffectEditor edit={edit} {...rest} />;
    case 'values':
      return <ValuesEditor edit={edit} {...rest} />;
    case 'checklist':
      return <ChecklistEditor edit={edit} {...rest} />;
    case 'choice':
      return <ChoiceEditor edit={edit} {...rest} />;
    case 'text':
      return <TextEditor edit={edit} {...rest} />;
  }
}
