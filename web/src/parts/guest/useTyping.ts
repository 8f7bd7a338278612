/** What is typed in a section: kept on the server a moment after each pause, and told when another device has changed it. */
import type { GuestFieldView, GuestSectionView } from '@north-pebble/contract';
import { useCallback, useEffect, useRef, useState } from 'react';
import { call, problemOf } from '../../api/client.ts';

export type Typed = Readonly<Record<string, unknown>>;
/** `other` where another device has saved the section meanwhile. */
export type Keeping = 'kept' | 'keeping' | 'away' | 'other';

const pause = 500;

const startOf = (section: GuestSectionView): Typed => ({ ...section.answers, ...section.typed?.value });

export function useTyping(token: string | null, section: GuestSectionView) {
  const [typed, setTyped] = useState<Typed>(() => startOf(section));
  const [fields, setFields] = useState<readonly GuestFieldView[]>(section.fields);
  const [keeping, setKeeping] = useState<Keeping>('kept');
  const base = useRef(section.typed?.base ?? 0);
  const latest = useRef(typed);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const saving = useRef<Promise<void>>(Promise.resolve());
  const { id } = section;

  const save = useCallback((): Promise<void> => {
    timer.current = null;
    const run = async () => {
      if (token === null) return;
      const value = latest.current;
      try {
        const params = { token, section: id };
        const saved = await call('PUT /guest/:token/sections/:section', {
          params,
          body: { value, base: base.current },
          keepalive: true,
        });
        base.current = saved.base;
        setFields(saved.fields);
        setKeeping(latest.current === value ? 'kept' : 'keeping');
      } catch (fault) {
        const code = problemOf(fault)?.code;
        setKeeping(code === 'stale' ? 'other' : 'away');
        // Out of reach, it is tried again until it is kept.
        if (code !== 'stale' && timer.current === null) timer.current = setTimeout(() => void save(), 4000);
      }
    };
    // One after another, also when several wait for the same one: each builds on the one before.
    saving.current = saving.current.then(run);
    return saving.current;
  }, [token, id]);

  const type = (field: string, value: unknown) => {
    latest.current = { ...latest.current, [field]: value };
    setTyped(latest.current);
    setKeeping('keeping');
    if (timer.current) clearTimeout(timer.current);
    timer.current = setTimeout(() => void save(), pause);
  };

  /** Sends what waits to be kept now; done when it is. */
  const flush = useCallback(async () => {
    if (timer.current) {
      clearTimeout(timer.current);
      void save();
    }
    await saving.current;
  }, [save]);

  useEffect(() => {
    const leave = () => void flush();
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [flush]);

  /** Builds on what the other device has saved: shows it, or keeps what is here in its place. */
  const settle = (newest: GuestSectionView, which: 'theirs' | 'mine') => {
    base.current = newest.typed?.base ?? 0;
    if (which === 'theirs') {
      latest.current = startOf(newest);
      setTyped(latest.current);
      setFields(newest.fields);
      setKeeping('kept');
    } else void save();
  };

  return { typed, fields, keeping, type, flush, settle };
}
