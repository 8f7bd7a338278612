/** A directory of ten thousand people read page by page over HTTP and compared with what it should hold. */
import { mkdtempSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { differences } from '@north-pebble/core/access';
import { directoryConnector } from '../../server/connections/directory/index.ts';
import { directoryApp } from '../../standins/directory/app.ts';
import type { Resource } from '../../standins/directory/resource.ts';
import type { Row } from '../measure.ts';

const people = 10_000;
const token = 'a token of some length';
const enterprise = 'urn:ietf:params:scim:schemas:extension:enterprise:2.0:User';

export async function directoryRows(): Promise<Row[]> {
  let base = '';
  const { app, directory, close } = directoryApp({
    token,
    folder: mkdtempSync(join(tmpdir(), 'np-scim-')),
    base: () => base,
  });
  const at = '2026-02-02T09:40:00Z';
  const meta = { created: at, lastModified: at, location: '', version: 'W/"1"' };
  const ids = Array.from({ length: people }, (_, n) => `user-${String(n + 1).padStart(6, '0')}`);
  directory.store.write(
    ids.map((id, n) => ({
      type: 'User' as const,
      id,
      resource: {
        id,
        userName: `person.${n}`,
        displayName: `Person ${n}`,
        active: true,
        [enterprise]: { employeeNumber: `p${n}`, department: 'Lights', organization: 'Ovay Station' },
        meta: { ...meta, resourceType: 'User' },
      } as Resource,
    })),
  );
  directory.store.write(
    Array.from({ length: 50 }, (_, n) => ({
      type: 'Group' as const,
      id: `group-${n}`,
      resource: {
        id: `group-${n}`,
        displayName: `Group ${n}`,
        members: ids.slice(n * 100, n * 100 + 100).map(value => ({ value, type: 'User' })),
        meta: { ...meta, resourceType: 'Group' },
      } as Resource,
    })),
  );
  const server = app.listen(0, '127.0.0.1');
  await new Promise(done => server.once('listening', done));
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const began = performance.now();
  const found = await directoryConnector.holds?.(
    { address: `${base}/scim/v2`, token, inside: true, groups: [] },
    { told: async () => {}, stopped: () => false },
  );
  if (!found?.ok) throw new Error('it did not answer');
  const all = differences(
    {
      people: ids.map((_, n) => ({
        id: `p${n}`,
        name: `Person ${n}`,
        mail: `p${n}@selkie.example`,
        works: n % 100 !== 0,
        comes: false,
        department: n % 50 === 1 ? 'Ferries' : 'Lights',
        place: 'Ovay Station',
        posts: [`Post ${n % 300}`],
      })),
      grants: [],
      groups: Array.from({ length: 50 }, (_, n) => `Group ${n}`),
      rules: Array.from({ length: 300 }, (_, n) => ({
        by: 'post' as const,
        value: `Post ${n}`,
        group: `Group ${n % 50}`,
      })),
      made: [],
      shut: [],
    },
    found.holds,
  );
  const seconds = (performance.now() - began) / 1000;
  server.closeAllConnections();
  server.close();
  close();
  return [
    {
      what: `a directory of ${people.toLocaleString('en')} people read and compared (${all.length} differences), in seconds`,
      ours: seconds,
      theirs: 10,
      baseline: 'the bar itself',
      ratio: seconds / 10,
      bar: 1,
      better: 'less',
    },
  ];
}
