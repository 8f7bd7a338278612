/** Why a change of facts cannot be made, in words. */
import { fullDate } from '../../time/index.ts';
import type { DirectoryIndex } from '../directory.ts';
import { personName } from '../reason.ts';
import type { ChangeFault } from './change.ts';

const postName = (index: DirectoryIndex, id: string): string => index.post(id)?.title ?? id;

export function changeFaultWords(index: DirectoryIndex, fault: ChangeFault): string {
  switch (fault.code) {
    case 'not on file':
      return 'This is not on file. Choose one that is.';
    case 'nothing changes':
      return 'It is so already: nothing would be different.';
    case 'before joining':
      return `Their first day is ${fullDate(fault.joined)}. Choose that day or a later one.`;
    case 'after leaving':
      return `Their last day is ${fullDate(fault.left)}. Choose that day or an earlier one.`;
    case 'leaves before joining':
      return `Nobody leaves before their first day, ${fullDate(fault.joined)}.`;
    case 'circle':
      return `The line would go in a circle on ${fullDate(fault.day)}: ${fault.posts.map(post => postName(index, post)).join(' → ')}.`;
    case 'post is held':
      return `${personName(index, fault.by)} holds it on ${fullDate(fault.day)}. A post has one main holder on a day.`;
    case 'taken':
      return `${personName(index, fault.by)} has it already.`;
  }
}
