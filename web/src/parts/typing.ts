/** Whether keys go into something that takes them: then they are no shortcuts. */
const takesKeys =
  'input, textarea, select, [contenteditable]:not([contenteditable="false"]), [role="spinbutton"], [role="textbox"], [role="combobox"], [role="listbox"], [role="menu"], [role="dialog"]';

export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest(takesKeys) !== null;
