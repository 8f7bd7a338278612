/** @jest-environment jsdom */
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import type { FieldOf, GivenFile } from '@north-pebble/core/form';
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { Refusal, type Sent, serve, unserve } from '../../testing/page.tsx';
import { byNameOnly, FilesInput, FilingContext, useFilesComing } from './FilesInput.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const field: FieldOf<'files'> = {
  kind: 'files',
  id: 'a',
  label: 'Papers',
  required: true,
  most: 2,
  largest: 1,
  takes: ['PDF'],
};
const paper = (name: string, size = 3) => new File(['x'.repeat(size)], name, { type: 'application/pdf' });
/** What the house says of a file that came in. */
const taken = ({ query }: Sent): GivenFile => {
  const name = query.get('name') ?? '';
  return { id: `id of ${name}`, name, size: 3, type: name.endsWith('.txt') ? 'text/plain' : 'application/pdf' };
};

function Asked({ seen, closed = false }: { seen: (value: unknown) => void; closed?: boolean }) {
  const [value, setValue] = useState<unknown>(undefined);
  const [other, setOther] = useState('');
  const coming = useFilesComing();
  return (
    <>
      <input aria-label="Other" value={other} onChange={event => setOther(event.target.value)} />
      <button type="button" disabled={coming}>
        Send
      </button>
      <FilesInput
        field={field}
        value={value}
        answers={{}}
        onChange={next => {
          setValue(next);
          seen({ files: next, other });
        }}
        fault={undefined}
        closed={closed}
        highlighted={false}
        house={{ leaveTypes: [], lists: [], people: [] }}
      />
    </>
  );
}
const names = (seen: ReturnType<typeof jest.fn>) =>
  (seen.mock.lastCall?.[0] as { files: GivenFile[] } | undefined)?.files.map(f => f.name);
const choose = (...files: File[]) => fireEvent.change(screen.getByLabelText('Papers'), { target: { files } });

describe('files as an answer', () => {
  test('say what is taken, come in one after another, and can be taken out again', async () => {
    serve({ 'POST /files': taken });
    const seen = jest.fn();
    render(<Asked seen={seen} />);
    expect(screen.getByText('PDFs, up to 1 MB each.')).toBeTruthy();
    choose(paper('a.pdf'), paper('b.pdf'));
    await screen.findByText('b.pdf, 1 kB');
    expect(names(seen)).toEqual(['a.pdf', 'b.pdf']);
    expect(screen.queryByRole('button', { name: 'Add a file' })).toBeNull();
    await userEvent.setup().click(screen.getByRole('button', { name: 'Remove a.pdf' }));
    expect(names(seen)).toEqual(['b.pdf']);
  });

  test('too many, too large, of another kind, or refused by the house: each is said, and the others stay', async () => {
    serve({
      'POST /files': (sent: Sent) =>
        sent.query.get('name') === 'bad.pdf'
          ? new Refusal('“bad.pdf” is not of a kind that is taken here.')
          : taken(sent),
    });
    const seen = jest.fn();
    render(<Asked seen={seen} />);
    choose(paper('good.pdf'));
    await screen.findByText('good.pdf, 1 kB');
    choose(paper('large.pdf', 1_000_001));
    expect(await screen.findByText('“large.pdf” has 1.0 MB; up to 1 MB are taken.')).toBeTruthy();
    choose(paper('words.txt'));
    expect(
      await screen.findByText(/“words.txt” is not of a kind that is taken here: PDFs, up to 1 MB each/),
    ).toBeTruthy();
    choose(paper('bad.pdf'), paper('more.pdf'));
    expect(await screen.findByText(/At most 2 files here. “bad.pdf” is not of a kind/)).toBeTruthy();
    expect(names(seen)).toEqual(['good.pdf']);
  });

  test('what is typed elsewhere while a file is on its way is not lost, and nothing is sent without it', async () => {
    let arrive: () => void = () => undefined;
    const arrived = new Promise<void>(done => {
      arrive = done;
    });
    serve({ 'POST /files': async (sent: Sent) => arrived.then(() => taken(sent)) });
    const seen = jest.fn();
    render(<Asked seen={seen} />);
    choose(paper('slow.pdf'));
    await screen.findByRole('progressbar', { name: 'Taking in slow.pdf' });
    expect((screen.getByRole('button', { name: 'Send' }) as HTMLButtonElement).disabled).toBe(true);
    await userEvent.setup().type(screen.getByRole('textbox', { name: 'Other' }), 'typed');
    arrive();
    await screen.findByText('slow.pdf, 1 kB');
    expect(seen.mock.lastCall?.[0]).toMatchObject({ other: 'typed' });
    await waitFor(() =>
      expect((screen.getByRole('button', { name: 'Send' }) as HTMLButtonElement).disabled).toBe(false),
    );
  });

  test('are dropped onto it, unless it is closed', async () => {
    serve({ 'POST /files': taken });
    const seen = jest.fn();
    const { rerender } = render(<Asked seen={seen} closed />);
    const drop = () =>
      fireEvent.drop(screen.getByRole('group', { name: 'Papers' }), { dataTransfer: { files: [paper('d.pdf')] } });
    drop();
    rerender(<Asked seen={seen} />);
    expect(seen).not.toHaveBeenCalled();
    drop();
    await screen.findByText('d.pdf, 1 kB');
    expect(names(seen)).toEqual(['d.pdf']);
  });

  test('go nowhere in a rehearsal', async () => {
    const asked = serve({});
    const seen = jest.fn();
    render(
      <FilingContext value={byNameOnly}>
        <Asked seen={seen} />
      </FilingContext>,
    );
    choose(paper('try.pdf'));
    await screen.findByText('try.pdf, 1 kB');
    expect(asked).toEqual([]);
  });
});
