/** @jest-environment jsdom */
import { describe, expect, test } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import { useSelection } from './selection.ts';

type Props = { waiting: string[]; asked?: string | null };
const desk = (props: Props) =>
  renderHook(({ waiting, asked = null }: Props) => useSelection(waiting, asked), { initialProps: props });

describe('what is open beside the list', () => {
  test('is the first, and stays when something more urgent comes before it', () => {
    const { result, rerender } = desk({ waiting: ['R-1', 'R-2'] });
    expect(result.current).toMatchObject({ open: 'R-1', gone: false });
    rerender({ waiting: ['R-9', 'R-1', 'R-2'] });
    expect(result.current).toMatchObject({ open: 'R-1', gone: false });
  });

  test('never gives way to another when somebody else has answered it', () => {
    const { result, rerender } = desk({ waiting: ['R-1', 'R-2'] });
    rerender({ waiting: ['R-2'] });
    expect(result.current).toMatchObject({ open: 'R-1', gone: true });
    act(() => result.current.finish(['R-1']));
    expect(result.current).toMatchObject({ open: 'R-2', gone: false });
  });

  test('gives way to the next when its reader is done with it', () => {
    const { result, rerender } = desk({ waiting: ['R-1', 'R-2'] });
    act(() => result.current.finish(['R-1']));
    rerender({ waiting: ['R-2'] });
    expect(result.current).toMatchObject({ open: 'R-2', gone: false });
  });

  test('is the one behind it, not the first; of the last, the one before', () => {
    const { result, rerender } = desk({ waiting: ['R-1', 'R-2', 'R-3', 'R-4'] });
    act(() => result.current.show('R-3'));
    act(() => result.current.finish(['R-3']));
    rerender({ waiting: ['R-1', 'R-2', 'R-4'] });
    expect(result.current.open).toBe('R-4');
    act(() => result.current.finish(['R-4']));
    rerender({ waiting: ['R-1', 'R-2'] });
    expect(result.current.open).toBe('R-2');
  });

  test('what was taken back is open again, and is not done with any more', () => {
    const { result, rerender } = desk({ waiting: ['R-1', 'R-2'] });
    act(() => result.current.finish(['R-1']));
    rerender({ waiting: ['R-2'] });
    act(() => result.current.show('R-1'));
    rerender({ waiting: ['R-1', 'R-2'] });
    expect(result.current).toMatchObject({ open: 'R-1', gone: false });
    rerender({ waiting: ['R-2'] });
    expect(result.current).toMatchObject({ open: 'R-1', gone: true });
  });

  test('is what the address names, also when that waits no more', () => {
    const { result, rerender } = desk({ waiting: ['R-1', 'R-2'], asked: 'R-2' });
    expect(result.current).toMatchObject({ open: 'R-2', gone: false });
    rerender({ waiting: ['R-1', 'R-2'], asked: 'R-7' });
    expect(result.current).toMatchObject({ open: 'R-7', gone: true });
  });

  test('is the first of those that the filters let through, unless somebody else has just answered it', () => {
    const { result, rerender } = renderHook(
      ({ waiting, listed }: { waiting: string[]; listed: string[] }) => useSelection(waiting, null, listed),
      { initialProps: { waiting: ['R-1', 'R-2', 'R-3'], listed: ['R-1', 'R-2', 'R-3'] } },
    );
    rerender({ waiting: ['R-1', 'R-2', 'R-3'], listed: ['R-3'] });
    expect(result.current).toMatchObject({ open: 'R-3', gone: false });
    rerender({ waiting: ['R-1', 'R-2'], listed: [] });
    expect(result.current).toMatchObject({ open: 'R-3', gone: true });
  });

  test('is nothing when nothing waits', () => {
    expect(desk({ waiting: [] }).result.current).toMatchObject({ open: null, gone: false });
  });
});
