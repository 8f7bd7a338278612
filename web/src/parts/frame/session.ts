/** The signed-in person, known below the frame. */
import type { Self } from '@north-pebble/contract';
import { civilDateAt, type Instant, yearOf } from '@north-pebble/core/time';
import { createContext, useContext } from 'react';

export type Here = { self: Self; now: Instant; demo: boolean };

const Context = createContext<Here | null>(null);
export const HereProvider = Context.Provider;

/** The year that it is for whoever reads. */
export const yearHere = ({ now, self }: Pick<Here, 'now' | 'self'>): number => yearOf(civilDateAt(now, self.zone));

export const useYear = (): number => yearHere(useHere());

export function useHere(): Here {
  const here = useContext(Context);
  if (!here) throw new Error('outside of the signed-in pages');
  return here;
}
