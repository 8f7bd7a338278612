/** The signed-in person, known below the frame. */
import type { Self } from '@north-pebble/contract';
import type { Instant } from '@north-pebble/core/time';
import { createContext, useContext } from 'react';

export type Here = { self: Self; now: Instant; demo: boolean };

const Context = createContext<Here | null>(null);
export const HereProvider = Context.Provider;

export function useHere(): Here {
  const here = useContext(Context);
  if (!here) throw new Error('outside of the signed-in pages');
  return here;
}
