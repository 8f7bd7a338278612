/** @jest-environment jsdom */
import { afterEach, describe, expect, test } from '@jest/globals';
import { cleanup, screen, within } from '@testing-library/react';
import { open, Refusal, serve, unserve } from '../../testing/page.tsx';
import { OpenPostsPlace } from './OpenPostsPlace.tsx';

afterEach(() => {
  cleanup();
  unserve();
});

const post = (more: object = {}) => ({
  title: 'Watch lead',
  until: null,
  said: [{ label: 'Department', words: 'Lights' }],
  apply: null,
  ...more,
});
const shown = (...posts: object[]) => {
  serve({ 'GET /open-posts': { house: 'Selkie Sound Lights', posts } });
  open(<OpenPostsPlace />);
};

describe('the page of open posts', () => {
  test('says what is told of each, and until when', async () => {
    shown(post({ until: '2026-03-01' }), post({ title: 'Mate', said: [] }));
    const [lead, mate] = await screen.findAllByRole('article');
    expect(within(lead).getByRole('heading', { name: 'Watch lead' })).toBeTruthy();
    expect(lead.textContent).toContain('Department: Lights');
    expect(lead.textContent).toContain('Open until Sun 1 March 2026.');
    expect(mate.textContent).toBe('Mate');
    expect(screen.getByText('Selkie Sound Lights')).toBeTruthy();
  });

  test('keeps two posts of one title apart', async () => {
    shown(post(), post({ said: [{ label: 'Department', words: 'Ferries' }] }));
    const both = await screen.findAllByRole('article', { name: 'Watch lead' });
    expect(both.map(one => one.textContent)).toEqual(['Watch leadDepartment: Lights', 'Watch leadDepartment: Ferries']);
  });

  test('shows what somebody typed as words, never as marks', async () => {
    shown(post({ title: '<img src=x onerror=alert(1)>', said: [{ label: 'Profile', words: '<b>bold</b>' }] }));
    const article = await screen.findByRole('article');
    expect(article.querySelector('img, b')).toBeNull();
    expect(article.textContent).toContain('<b>bold</b>');
  });

  test('says that nothing is open', async () => {
    shown();
    expect(await screen.findByText('No post is open now')).toBeTruthy();
  });

  test('says what is wrong where the house does not answer', async () => {
    serve({ 'GET /open-posts': new Refusal('The house does not answer.', [], 503) });
    open(<OpenPostsPlace />);
    expect(await screen.findByText(/The house does not answer/)).toBeTruthy();
  });
});
