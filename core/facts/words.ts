/** Why a change of facts cannot be made, in words. */

import type { DirectoryIndex } from '../people/index.ts';
import { personName } from '../people/index.ts';
import { fullDate } from '../time/index.ts';
import type { ChangeFault } from './change.ts';

const postName = (index: DirectoryIndex, id: string): string => index.post(id)?.title ?? id;

function cellKindWords(kind: string): string {
  switch (kind) {
    case 'number':
      return 'a number';
    case 'money':
      return 'an amount with at most two decimals';
    case 'date':
      return 'a date';
    case 'yes/no':
      return 'yes or no';
    default:
      return 'words, at most 300 letters';
  }
}

export function changeFaultWords(index: DirectoryIndex, fault: ChangeFault): string {
  switch (fault.code) {
    case 'not on file':
      return 'This is not on file. Choose one that is.';
    case 'nothing changes':
      return 'It is so already: nothing would be different.';
    case 'no record':
      return 'Nothing says where and when they work: a record from their first day on is missing.';
    case 'before joining':
      return `Their first day is ${fullDate(fault.joined)}. Choose that day or a later one.`;
    case 'after leaving':
      return `Their last day is ${fullDate(fault.left)}. Choose that day or an earlier one.`;
    case 'leaves before joining':
      return `Nobody leaves before their first day, ${fullDate(fault.joined)}.`;
    case 'nobody there':
      return 'Nobody who works there has leave to take on these days.';
    case 'away already':
      return `${personName(index, fault.person)} has leave on one of these days already, or earns none.`;
    case 'opening after leaving':
      return `Their opening balance is of ${fullDate(fault.on)}, after this day. Take it away first, or choose a later day.`;
    case 'opening before joining':
      return `An opening balance is of ${fullDate(fault.on)}. Choose that day or an earlier one, or correct the opening first.`;
    case 'circle':
      return `The line would go in a circle on ${fullDate(fault.day)}: ${fault.posts.map(post => postName(index, post)).join(' → ')}.`;
    case 'post is held':
      return `${personName(index, fault.by)} holds it on ${fullDate(fault.day)}. A post has one main holder on a day.`;
    case 'post is closed':
      return `The post is closed: its last day is ${fullDate(fault.closed)}.`;
    case 'name taken':
      return `${fault.name} is on file already. Choose another name, or change that one.`;
    case 'ends before it begins':
      return 'The last day is before the first one.';
    case 'ends of two kinds':
      return 'Both ends by halves, or both with times.';
    case 'parts overlap':
      return `Two parts are at the same time on day ${fault.day} of the cycle, or the one before it goes on past midnight into it.`;
    case 'builds on itself':
      return `The calendar would build on itself: ${fault.calendars.join(' → ')}.`;
    case 'day twice':
      return `${fullDate(fault.date)} is there twice.`;
    case 'cell does not fit':
      return `${fault.column} takes ${cellKindWords(fault.kind)}.`;
    case 'unit stays':
      return 'A plan keeps its unit: what was earned and taken in it would be another amount. Make a new plan instead.';
    case 'year start stays':
      return 'A plan keeps the day on which its leave year begins. Make a new plan, and give it to people from a day on.';
    case 'takes from itself':
      return 'It takes from a type that has no balance of its own. Choose one that takes from the plan or from time earned.';
    case 'more than there are':
      return `${fault.needed} would be needed of ${fault.people} who are there. Nobody could ever be away.`;
    case 'tiers twice':
      return `What is earned after ${fault.years} ${fault.years === 1 ? 'year' : 'years'} is said twice.`;
    case 'taken':
      return `${personName(index, fault.by)} has it already.`;
  }
}
