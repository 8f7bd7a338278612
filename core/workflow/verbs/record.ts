/** Record: the house’s own effects; leave in the ledger at once, everything else as an effect that is carried out after. */

import {
  changeOf,
  comingOf,
  comingProperties,
  editsOf,
  inTheWay,
  postOf,
  postProperties,
  recordProperties,
} from '../../facts/index.ts';
import { type Answers, filesOf, type GivenDocument, isLeaveSpan } from '../../form/index.ts';
import { obstacles } from '../../leave/index.ts';
import type { CivilDate } from '../../time/index.ts';
import { type Findings, nearestFix } from '../checking/finding.ts';
import { fieldReference } from '../checking/references.ts';
import { type Definition, fieldById, letterById, type StepOf } from '../definition/definition.ts';
import type { Path } from '../definition/path.ts';
import type { Placed } from '../definition/structure.ts';
import { passedOn } from '../execution/daysPassed.ts';
import type { Execution } from '../execution/execution.ts';
import { finish, type Passage, readWhen } from '../language/passage.ts';
import type { Known } from '../language/ruleReader.ts';
import { Scanner } from '../language/scanner.ts';
import { fill, insertions } from '../mail/letters.ts';
import { fillLetter } from '../mail/papers.ts';
import { todayOf } from '../request/context.ts';
import type { NamedValues } from '../request/events.ts';
import type { Ask } from '../request/reason.ts';
import { adjust } from './parts/adjusting.ts';
import { readEffect } from './parts/effects.ts';
import { isPostPick } from './parts/posts.ts';
import { sentence } from './parts/recordSentence.ts';
import { settingFindings } from './parts/setting.ts';
import { inCells, values } from './parts/values.ts';
import type { VerbModule } from './verb.ts';

/** A post that is picked goes into a list by its id: several posts may have one title. */
const pickedPosts = (
  definition: Definition,
  answers: Answers,
  wanted: readonly { name: string; formula: string }[],
): NamedValues =>
  Object.fromEntries(
    wanted.flatMap(({ name, formula }) => {
      const field = definition.form.fields.find(f => isPostPick(f) && f.label === formula.trim());
      const post = field && answers[field.id];
      return typeof post === 'string' ? [[name, post]] : [];
    }),
  );

function take(execution: Execution, step: StepOf<'Record'>): void {
  const { effect } = step;
  const { definition, state } = execution;
  const recorded = (what: Ask) => execution.emit({ kind: 'recorded', step: step.id, what });
  switch (effect.kind) {
    case 'book leave':
      if (!bookLeave(execution, step, effect)) return;
      break;
    case 'planner': {
      const from = execution.dateOf(effect.span);
      const answer = state.answers[effect.span];
      if (!from || typeof answer !== 'object' || answer === null || !('to' in answer)) {
        return execution.stuck(step.id, { code: 'nothing for the planner', field: effect.span });
      }
      const to = (typeof answer.to === 'string' ? answer.to : answer.to.date) as CivilDate;
      execution.effect({
        kind: 'planner',
        step: step.id,
        key: execution.key('planner'),
        person: execution.subject,
        from,
        to,
        label: effect.label,
      });
      recorded({ code: 'planner line', label: effect.label, person: execution.subject, from, to });
      break;
    }
    case 'adjust': {
      if (!adjust(execution, step, effect, recorded)) return;
      break;
    }
    case 'person': {
      const found = values(execution, step.id, [{ name: effect.property, formula: effect.formula }]);
      if (!found) return;
      // A picked row goes by its id: several posts may have one title.
      const picked = definition.form.fields.find(f => f.kind === 'pick' && f.label === effect.formula.trim());
      const value = picked ? state.answers[picked.id] : found[effect.property];
      const { index, book } = execution.context;
      const read = changeOf(index, execution.subject, effect.property, value, book.plans);
      if (!read.ok) return execution.stuck(step.id, { code: 'record cannot change', why: read.why });
      const from = todayOf(execution.context, execution.subject);
      const why = inTheWay(index, execution.subject, effect.property, read.change, from, book.plans);
      if (why) return execution.stuck(step.id, { code: 'record cannot change', why });
      execution.effect({
        kind: 'change person',
        key: execution.key('person'),
        person: execution.subject,
        property: effect.property,
        change: read.change,
        from,
      });
      recorded({ code: 'record changed', property: effect.property, person: execution.subject, change: read.change });
      break;
    }
    case 'add person': {
      // Whoever the request is for is on file already.
      if (execution.subject !== execution.asker) break;
      const found = values(execution, step.id, effect.values);
      if (!found) return;
      // A picked row goes by its id: several posts may have one title.
      const picked = Object.fromEntries(
        effect.values.flatMap(({ name, formula }) => {
          const field = definition.form.fields.find(f => f.kind === 'pick' && f.label === formula.trim());
          return field ? [[name, state.answers[field.id]]] : [];
        }),
      );
      const { index, book } = execution.context;
      const read = comingOf(index, { ...found, ...picked }, book.plans);
      if (!read.ok) return execution.stuck(step.id, { code: 'record cannot change', why: read.why });
      const { change, heldBy } = read;
      const edits = editsOf(index.directory, change, book.plans);
      if (!edits.ok)
        return execution.stuck(step.id, {
          code: 'record cannot change',
          why: { code: 'facts in the way', property: 'name', fault: edits.fault },
        });
      const key = execution.key('comes');
      execution.effect({ kind: 'add person', key, change });
      const { id: person, name, joined: from } = change.person;
      const what = { code: 'person added', person, name, from, post: change.post, heldBy } as const;
      execution.emit({ kind: 'recorded', step: step.id, what, key });
      break;
    }
    case 'add post': {
      const found = values(execution, step.id, effect.values);
      if (!found) return;
      const { index, book } = execution.context;
      const from = todayOf(execution.context, execution.asker);
      const read = postOf(index, found, execution.asker, from);
      if (!read.ok) return execution.stuck(step.id, { code: 'record cannot change', why: read.why });
      const edits = editsOf(index.directory, read.change, book.plans);
      if (!edits.ok)
        return execution.stuck(step.id, {
          code: 'record cannot change',
          why: { code: 'facts in the way', property: 'title', fault: edits.fault },
        });
      execution.effect({ kind: 'add post', key: execution.key('post'), change: read.change, from });
      const { id: post, title } = read.change.post;
      recorded({ code: 'post added', post, title, from, under: read.change.under?.reportsTo ?? null });
      if (effect.field !== undefined) execution.put(step.id, effect.field, post);
      break;
    }
    case 'add row': {
      const posts = pickedPosts(definition, execution.state.answers, effect.values);
      const others = values(
        execution,
        step.id,
        effect.values.filter(one => !(one.name in posts)),
      );
      if (!others) return;
      const found = { ...others, ...posts };
      execution.effect({
        kind: 'add row',
        key: execution.key(effect.list),
        list: effect.list,
        values: inCells(execution, found),
      });
      recorded({ code: 'row added', list: effect.list, values: found });
      break;
    }
    case 'change row': {
      const field = fieldById(definition, effect.row);
      const row = state.answers[effect.row];
      if (field?.kind !== 'pick' || typeof row !== 'string') {
        return execution.stuck(step.id, { code: 'no row picked', field: effect.row });
      }
      const found = values(execution, step.id, effect.values);
      if (!found) return;
      execution.effect({
        kind: 'change row',
        key: execution.key(field.list),
        list: field.list,
        row,
        values: inCells(execution, found),
      });
      recorded({ code: 'row changed', list: field.list, field: field.id, row, values: found });
      break;
    }
    case 'keep paper': {
      const given = state.answers[effect.field];
      const [file] = filesOf(given);
      // A paper that nobody had to give is not kept.
      if (!file) {
        const field = fieldById(definition, effect.field);
        if (field?.required) return execution.stuck(step.id, { code: 'no paper to keep', field: effect.field });
        break;
      }
      const { expires = null, issued = null } = given as Partial<GivenDocument>;
      const named = effect.holder === undefined ? null : state.answers[effect.holder];
      const isOther = typeof named === 'string' && named !== '' && execution.subject === execution.asker;
      const holder = isOther ? named : execution.who(execution.subject);
      // One workflow may keep papers of several kinds: which one stands in a field then.
      const as = fill(effect.as, insertions(definition, state, execution.context)).slice(0, 80);
      execution.effect({
        kind: 'keep paper',
        key: execution.key('paper'),
        field: effect.field,
        as,
        person: isOther ? null : execution.subject,
        holder,
        file: file.id,
        issued,
        expires,
        on: todayOf(execution.context, execution.subject),
      });
      recorded({ code: 'paper kept', as, holder, field: effect.field });
      break;
    }
    case 'make letter': {
      const letter = letterById(definition, effect.letter);
      const field = fieldById(definition, effect.field);
      if (!letter || !field) return execution.stuck(step.id, { code: 'letter not there', letter: effect.letter });
      const key = execution.key('letter');
      const filled = fillLetter(letter, definition, state, execution.context, field);
      execution.effect({ kind: 'make letter', key, step: step.id, name: letter.name, letter: filled });
      const what = { code: 'letter made', letter: letter.id, field: field.id } as const;
      execution.emit({ kind: 'recorded', step: step.id, what, undelivered: true, key });
      return execution.emit({
        kind: 'waiting',
        step: step.id,
        until: null,
        reason: { code: 'until letter made', letter: letter.id },
      });
    }
    case 'set':
      if (!execution.set(step.id, effect.field, effect.formula)) return;
      break;
    case 'open': {
      const found = values(execution, step.id, effect.values);
      if (!found) return;
      const key = execution.key(effect.workflow);
      execution.effect({
        kind: 'open request',
        step: step.id,
        key,
        workflow: effect.workflow,
        person: execution.subject,
        values: found,
      });
      execution.emit({ kind: 'opened', step: step.id, workflow: effect.workflow, key, undelivered: true });
      break;
    }
  }
  execution.goOn({ to: 'next' }, step.id);
}

function bookLeave(
  execution: Execution,
  step: StepOf<'Record'>,
  effect: Extract<StepOf<'Record'>['effect'], { kind: 'book leave' }>,
): boolean {
  const span = execution.state.answers[effect.span];
  const type = execution.state.answers[effect.type];
  if (!isLeaveSpan(span) || typeof type !== 'string') {
    execution.stuck(step.id, { code: 'leave not known' });
    return false;
  }
  const passed = passedOn(execution.state, execution.context);
  if (passed !== null) {
    execution.stuck(step.id, { code: 'days have passed', last: passed });
    return false;
  }
  const how = { request: execution.state.request, how: 'asked before' } as const;
  const [obstacle] = obstacles(execution.context.book, execution.subject, type, span, how);
  if (obstacle) {
    execution.stuck(step.id, { code: 'leave cannot be booked', obstacle });
    return false;
  }
  execution.emit({ kind: 'booked', type, span, planner: effect.planner });
  return true;
}

function read(passage: Passage, known: Known, id: string): StepOf<'Record'> {
  const s = new Scanner(passage.sentence);
  const when = readWhen(s, known);
  const effect = readEffect(s, known);
  finish(s);
  return { verb: 'Record', id, when, effect };
}

function check(findings: Findings, { path }: Placed, step: StepOf<'Record'>): void {
  const { effect } = step;
  const { around } = findings;
  const at: Path = [...path, 'effect'];
  switch (effect.kind) {
    case 'book leave': {
      fieldReference(findings, step, effect.span, [...at, 'span'], ['leave span'], 'a span of leave');
      const type = fieldReference(findings, step, effect.type, [...at, 'type'], ['choice'], 'a choice of leave types');
      if (effect.why !== undefined)
        fieldReference(findings, step, effect.why, [...at, 'why'], ['text', 'long text'], 'a field of text');
      if (type?.kind === 'choice' && type.options !== 'leave types')
        findings.add(
          'stops',
          'leave types',
          step,
          [...at, 'type'],
          'No kind of leave to book',
          `“${type.label}” is no choice of leave types.`,
        );
      return;
    }
    case 'adjust':
      fieldReference(findings, step, effect.type, [...at, 'type'], ['choice'], 'a choice of leave types');
      if (effect.holder !== undefined)
        fieldReference(findings, step, effect.holder, [...at, 'holder'], ['person'], 'whose balance it is');
      return;
    case 'planner':
      fieldReference(findings, step, effect.span, [...at, 'span'], ['leave span', 'date range'], 'a range of dates');
      return;
    case 'change row':
      fieldReference(findings, step, effect.row, [...at, 'row'], ['pick'], 'a pick from a list');
      return;
    case 'keep paper':
      fieldReference(findings, step, effect.field, [...at, 'field'], ['document'], 'a document');
      if (effect.holder !== undefined)
        fieldReference(findings, step, effect.holder, [...at, 'holder'], ['text'], 'the name of its holder');
      return;
    case 'add person': {
      const names = effect.values.map(one => one.name);
      for (const [n, name] of names.entries())
        if (!(comingProperties as readonly string[]).includes(name))
          findings.add(
            'stops',
            'property',
            step,
            [...at, 'values', n, 'name'],
            `Nobody is put on file with “${name}”`,
            `There are ${comingProperties.join(', ')}.`,
          );
      for (const needed of ['name', 'first day'])
        if (!names.includes(needed))
          findings.add(
            'stops',
            'property',
            step,
            [...at, 'values'],
            `Nobody is put on file without a ${needed}`,
            'Say it among the values.',
          );
      return;
    }
    case 'add post': {
      const names = effect.values.map(one => one.name);
      for (const [n, name] of names.entries())
        if (!(postProperties as readonly string[]).includes(name))
          findings.add(
            'stops',
            'property',
            step,
            [...at, 'values', n, 'name'],
            `No post is put on file with “${name}”`,
            `There are ${postProperties.join(', ')}.`,
          );
      if (!names.includes('title'))
        findings.add(
          'stops',
          'property',
          step,
          [...at, 'values'],
          'No post is put on file without a title',
          'Say it among the values.',
        );
      if (effect.field !== undefined)
        fieldReference(findings, step, effect.field, [...at, 'field'], ['pick'], 'a pick of posts');
      return;
    }
    case 'make letter':
      fieldReference(findings, step, effect.field, [...at, 'field'], ['files'], 'a field of files');
      if (!letterById(findings.definition, effect.letter))
        findings.add(
          'stops',
          'letter',
          step,
          [...at, 'letter'],
          'There is no letter to make',
          `The letter “${effect.letter}” is not there.`,
        );
      return;
    case 'set':
      settingFindings(findings, step, effect, at);
      return;
    case 'add row':
      if (around.lists && !around.lists.some(l => l.id === effect.list))
        findings.add(
          'stops',
          'list',
          step,
          [...at, 'list'],
          `There is no list “${effect.list}”`,
          'No row can be added to it.',
          nearestFix(effect.list, around.lists, [...at, 'list']),
        );
      return;
    case 'open':
      if (around.workflows && !around.workflows.includes(effect.workflow))
        findings.add(
          'stops',
          'workflow',
          step,
          [...at, 'workflow'],
          `There is no workflow “${effect.workflow}”`,
          'No request can be opened in it.',
          nearestFix(
            effect.workflow,
            around.workflows.map(id => ({ id, name: id })),
            [...at, 'workflow'],
          ),
        );
      return;
    case 'person':
      if ((recordProperties as readonly string[]).includes(effect.property)) return;
      findings.add(
        'stops',
        'property',
        step,
        [...at, 'property'],
        `The record of a person has no “${effect.property}”`,
        `It has ${recordProperties.join(', ')}.`,
        nearestFix(
          effect.property,
          recordProperties.map(name => ({ id: name, name })),
          [...at, 'property'],
        ),
      );
      return;
  }
}

export const record: VerbModule<'Record'> = { take, say: sentence, read, check };
