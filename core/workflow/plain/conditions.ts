/** Conditions in plain words: `longer than 10 days`, `cost is over 500 and kind is annual`, `unless it is urgent`. */
import type { Type } from '../../formula/index.ts';
import type { Definition } from '../definition/definition.ts';
import { namesOf } from '../figures/evaluate.ts';
import { spanFields } from './limits.ts';
import type { Known } from './people.ts';
import type { Named, Words } from './words.ts';

type Comparator = '<' | '<=' | '>' | '>=' | '=' | '!=';

const comparatorOf = (w: Words): Comparator | undefined => {
  if (
    w.eat(
      'is|are|was|were|goes|costs|lasts|takes|be|becomes? not over|above|more|greater|longer|higher than?',
      'no more|longer|higher|greater than',
      'at most',
      'up to',
      'not over|above',
      '<=',
      'is|are? at most',
      'is|are|lasts|takes|costs at most',
      'is|are|lasts|takes|costs up to',
      'is|are no more|longer than',
    )
  )
    return '<=';
  if (
    w.eat(
      'is|are|was|be|lasts|takes|costs|of|with? at least',
      'is|are|be|lasts|takes|costs? no less|fewer than',
      'is|are? not below|under',
      '>=',
    )
  )
    return '>=';
  if (
    w.eat(
      'is|are|was|goes|lasts|takes|costs|becomes|be? over|above|exceeding',
      'exceeds|exceed',
      'is|are|was|lasts|takes|costs|be? more|greater|longer|higher|larger than',
      '>',
      'is|are? after|beyond',
      'past',
    )
  )
    return '>';
  if (
    w.eat(
      'is|are|was|goes|falls|lasts|takes|costs|becomes|be? below|under|beneath',
      'is|are|was|lasts|takes|costs|be? less|fewer|shorter|lower|smaller than',
      '<',
      'is|are? before',
    )
  )
    return '<';
  if (w.eat('is|are not', "isn't|aren't", '!=', 'differs from', 'is|are other|different than|from')) return '!=';
  if (w.eat('is|are|was|equals|be exactly?', 'is|are equal to', '=')) return '=';
  return undefined;
};

/** `10 days or more`, `5 days or less`. */
const behind = (w: Words): Comparator | undefined =>
  w.eat('or|and more|longer|above|over') ? '>=' : w.eat('or|and less|fewer|shorter|below|under') ? '<=' : undefined;

const unit = (w: Words): 'days' | 'money' | 'hours' | undefined => {
  if (w.eat('working? days|day')) return 'days';
  if (w.eat('hours|hour')) return 'hours';
  if (w.eat('euros|euro|eur|pounds|crowns|nok|gbp|€|£')) return 'money';
  w.missed('days', 'hours', 'euros');
  return undefined;
};

type Option = { name: string; value: string };

/** The words that a choice may be answered with, each with its field. */
function optionsOf(definition: Definition): Named<Option>[] {
  return definition.form.fields.flatMap(field => {
    if (field.kind !== 'choice' || field.options === 'leave types') return [];
    return field.options.map(option => ({ name: option, value: { name: field.label, value: option } }));
  });
}

const text = (value: string): string => JSON.stringify(value);

class Conditions {
  readonly w: Words;
  readonly known: Known;
  readonly types: Readonly<Record<string, Type>>;
  readonly names: Named<string>[];
  constructor(w: Words, known: Known) {
    this.w = w;
    this.known = known;
    this.types = namesOf(known.definition);
    this.names = Object.keys(this.types).map(name => ({ name, value: name }));
  }

  /** The figure that “longer than 10 days” or “over 500 euros” is about. */
  figure(of: 'days' | 'money' | 'hours'): string | undefined {
    const { figures, form } = this.known.definition;
    const found = figures.find(f => f.unit === of)?.name;
    return found ?? (of === 'money' ? form.fields.find(f => f.kind === 'money')?.label : undefined);
  }

  all(): string | undefined {
    const { w } = this;
    let formula = this.one();
    if (formula === undefined) return undefined;
    for (;;) {
      const next = w.try(() => {
        w.eat(',');
        const word = w.eat('and if|when?') ? 'and' : w.eat('or if|when?') ? 'or' : undefined;
        const more = word && this.one();
        return more && { word, more };
      });
      if (!next) return formula;
      formula = `${formula} ${next.word} ${next.more}`;
    }
  }

  one(): string | undefined {
    const { w } = this;
    const token = w.tokens[w.at];
    // A formula in marks stands as it is.
    if (token?.quoted && this.known.definition && w.text[token.from] === '‹') {
      w.at++;
      return token.text;
    }
    return (
      w.try(() => this.lastDay()) ??
      w.try(() => this.unnamed()) ??
      w.try(() => this.named()) ??
      w.try(() => this.ofChoice()) ??
      w.try(() => this.ofAsker())
    );
  }

  /** `the last day of the dates is not known`, and the same as it is shown on the sheet: `Dates.end = null`. */
  lastDay(): string | undefined {
    const { w } = this;
    const start = w.tokens[w.at]?.from;
    if (start === undefined) return undefined;
    const shown = /^(.{1,80}?)\.end (=|!=) null(?!\w)/.exec(w.text.slice(start));
    if (shown && spanFields(this.known).some(field => field.name === shown[1])) {
      while ((w.tokens[w.at]?.from ?? Number.POSITIVE_INFINITY) < start + shown[0].length) w.at++;
      return shown[0];
    }
    if (!w.eat('the? last day|end of')) return undefined;
    w.eat('the|their|his|her');
    const field = w.name(spanFields(this.known));
    const name = this.known.definition.form.fields.find(one => one.id === field)?.label;
    if (name === undefined) return undefined;
    if (w.eat('is|was not known|told|yet', "isn't known|told", 'is unknown|open')) {
      w.eat('yet');
      return `${name}.end = null`;
    }
    return w.eat('is|was known|told') ? `${name}.end != null` : undefined;
  }

  /** `it takes more than 10 days`, `anything over 10 days`, `10 days or more`. */
  unnamed(): string | undefined {
    const { w } = this;
    w.eat(
      'it|this|that|they|he|she|the_request|leave|trip|absence|span|stay|anything|everything|requests|leave|trips|absences|something',
      'the request|leave|trip|absence',
      'it|this|that',
    );
    w.eat('of|for|with|that|which|is|are|lasts|takes');
    const costs = w.peek() === 'costs' || w.peek() === 'cost';
    const before = comparatorOf(w);
    const n = w.number();
    if (n === undefined) return undefined;
    const of = unit(w) ?? (costs ? 'money' : undefined);
    if (!of) return undefined;
    const comparator = before ?? behind(w);
    const name = this.figure(of);
    if (!comparator || !name) return undefined;
    if (of === 'days') w.eat('of leave', 'long');
    return `${name} ${comparator} ${n}`;
  }

  named(): string | undefined {
    const { w } = this;
    const negated = w.eat('not');
    w.eat('the|their|its|a');
    const name = w.name(this.names);
    if (name === undefined) return undefined;
    const type = this.types[name];
    w.eat('would|will|has');
    if (!negated) {
      if (
        w.eat(
          'is|are|was? not empty|missing',
          'is|are|has_been|were? given|filled|there|present|attached',
          'is|are in|known',
        )
      )
        return this.given(name, true);
      if (
        w.eat(
          'is|are|was? empty|missing|blank',
          'is|are not given|filled|there|present|attached|in|known|yet',
          "isn't|aren't given|filled|there|present|attached|in|known",
          'is|are? missing',
        )
      )
        return this.given(name, false);
    }
    if (type === 'yes/no') {
      const no = w.eat('is no|false|not', "isn't") || false;
      if (!no) w.eat('is yes|true', 'applies|holds|is');
      return `${name} = ${no === negated ? 'true' : 'false'}`;
    }
    if (negated) return undefined;
    const comparator = comparatorOf(w);
    if (!comparator) return undefined;
    const value = this.value(name, type);
    if (value === undefined) return undefined;
    const after = comparator === '=' ? behind(w) : undefined;
    return `${name} ${after ?? comparator} ${value}`;
  }

  given(name: string, there: boolean): string {
    return `${name} ${there ? '!=' : '='} null`;
  }

  value(name: string, type: Type | undefined): string | undefined {
    const { w } = this;
    w.eat('the|a|an');
    if (type === 'number') {
      const n =
        w.try(() => (w.eat('-|−|minus') ? (v => (v === undefined ? undefined : -v))(w.number()) : undefined)) ??
        w.number();
      if (n !== undefined) {
        unit(w);
        return String(n);
      }
      const other = w.name(
        this.names.filter(o => this.types[o.value] === 'number'),
        false,
      );
      return other === undefined || other === name ? undefined : other;
    }
    if (type === 'date') {
      if (/^\d{4}-\d{2}-\d{2}$/.test(w.peek())) return `date("${w.tokens[w.at++].low}")`;
      return w.eat('today') ? 'today()' : undefined;
    }
    if (type !== 'text' && type !== 'anything') return undefined;
    const field = this.known.definition.form.fields.find(f => f.label === name);
    if (field?.kind === 'choice' && field.options !== 'leave types') {
      const option = w.name(field.options.map(o => ({ name: o, value: o })));
      if (option !== undefined) {
        w.eat('leave');
        return text(option);
      }
    }
    const house = this.ofHouse(name);
    const known = house.length > 0 ? w.name(house) : undefined;
    if (known !== undefined) return text(known);
    const token = w.tokens[w.at];
    if (!token?.quoted) return undefined;
    w.at++;
    return text(token.text);
  }

  ofHouse(name: string): Named<string>[] {
    const directory = this.known.index?.directory;
    const names = (all: readonly string[]) => all.map(one => ({ name: one, value: one }));
    if (name === 'Asker place') return names(directory?.places.map(p => p.name) ?? []);
    if (name === 'Asker department') return names(directory?.departments.map(d => d.name) ?? []);
    if (name === 'Asker post') return names([...new Set(directory?.posts.map(p => p.title) ?? [])]);
    return [];
  }

  /** `it is unpaid leave`, `for unpaid leave`. */
  ofChoice(): string | undefined {
    const { w } = this;
    w.eat('it|this|that is', 'it|this is for', 'for|of');
    const not = w.eat('not');
    w.eat('a|an|the');
    const option = w.name(optionsOf(this.known.definition), false);
    if (!option) return undefined;
    w.eat('leave|requests|request|trips|trip');
    return `${option.name} ${not ? '!=' : '='} ${text(option.value)}`;
  }

  /** `the asker works in Finance`, `people at Ovay Station`. */
  ofAsker(): string | undefined {
    const { w } = this;
    if (
      !w.eat(
        'the? asker|requester|person is|works|comes|belongs in|at|from|to',
        'people|someone|somebody|anyone|askers in|at|from',
      )
    )
      return undefined;
    w.eat('the');
    for (const name of ['Asker department', 'Asker place']) {
      const value = w.name(this.ofHouse(name), false);
      if (value !== undefined) return `${name} = ${text(value)}`;
    }
    return undefined;
  }
}

/** A condition at this place, as a formula. */
export const readConditionOf = (w: Words, known: Known): string | undefined =>
  w.try(() => new Conditions(w, known).all());

const opposite: Record<Comparator, Comparator> = { '<': '>=', '<=': '>', '>': '<=', '>=': '<', '=': '!=', '!=': '=' };

/** The same condition turned round, as “unless” has it. */
export function negated(formula: string): string {
  const yesNo = /^(.+) = (true|false)$/.exec(formula);
  if (yesNo) return `${yesNo[1]} = ${yesNo[2] === 'true' ? 'false' : 'true'}`;
  const simple = /^((?:(?! and | or |[<>=!]).)+) (<=|>=|!=|<|>|=) ((?:(?! and | or ).)+)$/.exec(formula);
  return simple ? `${simple[1]} ${opposite[simple[2] as Comparator]} ${simple[3]}` : `not(${formula})`;
}
