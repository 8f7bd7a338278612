/** What can be done with a line besides changing its phrases. */
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { holdsFiles, idFrom, isAsked } from '@north-pebble/core/form';
import {
  type Attachment,
  type Definition,
  type Guest,
  invitable,
  type Line,
  type Outcome,
  type Step,
  setAt,
  stepById,
} from '@north-pebble/core/workflow';
import { useState } from 'react';
import { useSheet } from './editors/shared.tsx';

export type LineAction = 'up' | 'down' | 'copy' | 'cut' | 'paste' | 'note' | 'remove' | 'add';

/** A guest to begin with: the first names and addresses that the form has, and its last section. */
function guestOf({ form }: Definition): Guest {
  const texts = form.fields.filter(field => field.kind === 'text');
  const [first] = texts;
  const mail = texts.find(field => /mail|address/i.test(field.label)) ?? texts[1] ?? first;
  const last = form.sections?.at(-1);
  return { name: first?.id ?? 'name', mail: mail?.id ?? 'mail', sections: [last?.id ?? 'section'] };
}

/** Parts that can be put to a step of this verb, each as the changed definition. */
function additions(definition: Definition, line: Line, step: Step): { words: string; next: () => Definition }[] {
  const put = (key: string, value: unknown) => () => setAt(definition, [...line.path, key], value);
  const found: { words: string; next: () => Definition }[] = [];
  const handing = (handTo: 'anybody' | undefined) => ({
    words: handTo ? 'Hand it only to those of its rule' : 'It may be handed to anybody',
    next: put('handTo', handTo ? undefined : 'anybody'),
  });
  const labels = definition.figures[0]?.name ?? definition.form.fields.find(f => isAsked(f))?.label ?? 'Asker place';
  const isNumber = definition.figures.length > 0;
  const condition = isNumber ? `${labels} > 1` : `${labels} = "…"`;
  if ('when' in step && step.when === null) found.push({ words: 'Only when …', next: put('when', condition) });
  if ('when' in step && step.when !== null)
    found.push({ words: 'Always, without a condition', next: put('when', null) });
  switch (step.verb) {
    case 'Choose':
      found.push({
        words: 'Another row',
        next: put('rows', [
          ...step.rows,
          {
            id: idFrom(
              `row-${step.rows.length + 1}`,
              step.rows.map(r => r.id),
            ),
            condition,
            go: { to: 'next' },
          },
        ]),
      });
      found.push(
        step.otherwise
          ? { words: 'No “otherwise”', next: put('otherwise', null) }
          : { words: 'Otherwise …', next: put('otherwise', { to: 'next' }) },
      );
      break;
    case 'Decide': {
      found.push(...attachments(definition, step.attach, put).filter(one => !one.words.includes('invitation')));
      const taken = step.outcomes.map(o => o.id);
      const outcome: Outcome = {
        id: idFrom('outcome', taken),
        label: `Outcome ${step.outcomes.length + 1}`,
        tone: 'good',
        note: 'may',
        leads: { to: 'next' },
      };
      if (step.outcomes.length < 9)
        found.push({ words: 'Another outcome', next: put('outcomes', [...step.outcomes, outcome]) });
      found.push({
        words: step.once ? 'Ask everybody, also twice' : 'Ask nobody twice in a row',
        next: put('once', step.once ? undefined : true),
      });
      found.push({
        words: step.askerMay ? 'Never let the asker have it' : 'The asker may have it',
        next: put('askerMay', step.askerMay ? undefined : true),
      });
      found.push(handing(step.handTo));
      break;
    }
    case 'Do':
      found.push({
        words: 'Something to tick',
        next: put('checklist', [
          ...(step.checklist ?? []),
          {
            id: idFrom(`item-${(step.checklist?.length ?? 0) + 1}`, step.checklist?.map(c => c.id) ?? []),
            label: 'Something to tick',
          },
        ]),
      });
      found.push({
        words: step.couldNot ? 'It can only be done' : 'It may turn out not to be possible',
        next: put('couldNot', step.couldNot ? undefined : { to: 'next' }),
      });
      found.push(handing(step.handTo));
      found.push({
        words: step.guest ? 'Nobody fills in anything by a personal link' : 'Somebody fills in by a personal link …',
        next: put('guest', step.guest ? undefined : guestOf(definition)),
      });
      break;
    case 'Split': {
      const name = `Lane ${step.lanes.length + 1}`;
      found.push({
        words: 'Another lane',
        next: put('lanes', [
          ...step.lanes,
          {
            id: idFrom(
              name,
              step.lanes.map(l => l.id),
            ),
            name,
            steps: [],
          },
        ]),
      });
      break;
    }
    case 'Provision': {
      found.push({
        words: step.waits ? 'Go on at once' : 'Wait until that is done',
        next: () => {
          const next = put('waits', step.waits ? undefined : true)();
          // Where nothing is waited for, a refusal leads nowhere.
          return step.waits ? setAt(next, [...line.path, 'refused'], undefined) : next;
        },
      });
      if (step.waits)
        found.push({
          words: step.refused ? 'Refused: HR operations help' : 'Refused …',
          next: put('refused', step.refused ? undefined : { to: 'close', closing: definition.closings.at(-1)?.id }),
        });
      const [field] = definition.form.fields.filter(f => f.kind === 'text');
      if (field)
        found.push({
          words: 'Take what comes back into a field',
          next: put('fills', [...(step.fills ?? []), { from: 'account', field: field.id }]),
        });
      break;
    }
    case 'Tell':
      found.push({
        words: 'Tell somebody else too',
        next: put('to', [...step.to, { first: { kind: 'manager', levels: 1 }, otherwise: [] }]),
      });
      found.push({
        words: 'Also to an address',
        next: put('addresses', [...(step.addresses ?? []), 'somebody@example.org']),
      });
      found.push(...attachments(definition, step.attach, put));
      break;
  }
  if (step.verb === 'Decide' || step.verb === 'Do') {
    if (definition.countsBack || step.plan)
      found.push({
        words: step.plan ? 'Say nothing of the plan' : 'In the plan it takes …',
        next: put('plan', step.plan ? undefined : { takes: 1 }),
      });
    found.push({
      words: step.whenAway === 'waits' ? 'Away without cover: go up the line' : 'Away without cover: wait',
      next: put('whenAway', step.whenAway === 'waits' ? 'goes up' : 'waits'),
    });
  }
  return found;
}

/** What may go out with a message: files of a field, an invitation over dates, or nothing again. */
function attachments(
  definition: Definition,
  attach: readonly Attachment[] | undefined,
  put: (key: string, value: unknown) => () => Definition,
): { words: string; next: () => Definition }[] {
  const all = attach ?? [];
  const files = definition.form.fields.filter(
    f => holdsFiles(f) && !all.some(one => one.what === 'files' && one.field === f.id),
  );
  const dates = definition.form.fields.find(f => (invitable as readonly string[]).includes(f.kind));
  return [
    ...files.slice(0, 3).map(field => ({
      words: `With the files of “${field.label}”`,
      next: put('attach', [...all, { what: 'files', field: field.id }]),
    })),
    ...(dates && !all.some(one => one.what === 'invitation')
      ? [
          {
            words: 'With an invitation for calendars',
            next: put('attach', [...all, { what: 'invitation', of: dates.id, title: dates.label }]),
          },
        ]
      : []),
    ...(all.length > 0 ? [{ words: 'Attach nothing', next: put('attach', undefined) }] : []),
  ];
}

function Additions({ line, onClose }: { line: Line; onClose: () => void }) {
  const { definition, onChange } = useSheet();
  const step = stepById(definition, line.step);
  if (!step) return null;
  return additions(definition, line, step).map(({ words, next }) => (
    <MenuItem
      key={words}
      onClick={() => {
        onClose();
        onChange(next());
      }}
    >
      {words}
    </MenuItem>
  ));
}

export function LineMenu({ line, onAction }: { line: Line; onAction: (action: LineAction) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const isAsk = line.verb === 'Ask';
  const close = () => setAnchor(null);
  const act = (action: LineAction) => () => {
    close();
    onAction(action);
  };
  return (
    <>
      <button
        type="button"
        className="more"
        aria-label={`More for line ${line.number}`}
        aria-haspopup="menu"
        onClick={event => {
          event.stopPropagation();
          setAnchor(event.currentTarget);
        }}
      >
        …
      </button>
      {anchor && (
        <Menu open anchorEl={anchor} onClose={close}>
          <Additions line={line} onClose={close} />
          {!isAsk && <Divider />}
          <MenuItem onClick={act('add')}>New line below</MenuItem>
          <MenuItem onClick={act('note')}>Note for colleagues</MenuItem>
          {!isAsk && <MenuItem onClick={act('up')}>Move up (Alt ↑)</MenuItem>}
          {!isAsk && <MenuItem onClick={act('down')}>Move down (Alt ↓)</MenuItem>}
          {!isAsk && <MenuItem onClick={act('copy')}>Copy</MenuItem>}
          {!isAsk && <MenuItem onClick={act('cut')}>Cut</MenuItem>}
          <MenuItem onClick={act('paste')}>Paste below</MenuItem>
          {!isAsk && <MenuItem onClick={act('remove')}>Remove</MenuItem>}
        </Menu>
      )}
    </>
  );
}

/** How its button looks, for the list of lines. */
export const lineMenuStyles = {
  '& .more': {
    width: 30,
    height: 30,
    p: 0,
    border: 0,
    borderRadius: '50%',
    background: 'none',
    color: 'text.secondary',
    font: 'inherit',
    fontWeight: 700,
    lineHeight: '12px',
    pb: 1,
    cursor: 'pointer',
  },
  '& .more:hover': { bgcolor: 'action.hover' },
};
