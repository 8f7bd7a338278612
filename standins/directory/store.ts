/**
 * What the directory holds, in memory and in its folder: each change is a line that is on the disk before it is answered,
 * so that a process that is killed has either done it or not. A line that was cut off by the end is left out.
 */
import { closeSync, existsSync, fsyncSync, mkdirSync, openSync, readFileSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import type { Resource } from './resource.ts';
import { type TypeName, types } from './schema.ts';

type Line = { type: TypeName; id: string; resource: Resource | null };

export class Store {
  readonly #all = new Map<TypeName, Map<string, Resource>>(types.map(type => [type.name, new Map()]));
  /** Names and ids by which others are found, folded; each type has its own. */
  readonly #named = new Map<TypeName, Map<string, string>>(types.map(type => [type.name, new Map()]));
  readonly #groupsOf = new Map<string, Set<string>>();
  readonly #file: number;
  #next = 1;

  constructor(folder: string) {
    mkdirSync(folder, { recursive: true });
    const path = join(folder, 'directory.jsonl');
    if (existsSync(path)) {
      const text = readFileSync(path, 'utf8');
      const lines = text.slice(0, text.lastIndexOf('\n') + 1).split('\n');
      for (const line of lines) if (line) this.#keep(JSON.parse(line) as Line);
    }
    this.#file = openSync(path, 'a');
  }

  newId(type: TypeName): string {
    return `${type.toLowerCase()}-${String(this.#next).padStart(6, '0')}`;
  }

  get(type: TypeName, id: string): Resource | undefined {
    return this.#all.get(type)?.get(id);
  }

  all(type: TypeName): Resource[] {
    return [...(this.#all.get(type)?.values() ?? [])];
  }

  /** The id of whoever has this unique name. */
  byName(type: TypeName, name: string): string | undefined {
    return this.#named.get(type)?.get(name.toLowerCase());
  }

  groupsOf(user: string): Resource[] {
    return [...(this.#groupsOf.get(user) ?? [])].flatMap(id => this.get('Group', id) ?? []);
  }

  /** Written to the disk, then held; several together or not at all. */
  write(lines: readonly Line[]): void {
    writeSync(this.#file, lines.map(line => `${JSON.stringify(line)}\n`).join(''));
    fsyncSync(this.#file);
    for (const line of lines) this.#keep(line);
  }

  close(): void {
    closeSync(this.#file);
  }

  #keep({ type, id, resource }: Line): void {
    const all = this.#all.get(type) as Map<string, Resource>;
    const names = this.#named.get(type) as Map<string, string>;
    const before = all.get(id);
    if (before) names.delete(nameOf(type, before).toLowerCase());
    if (type === 'Group') {
      for (const member of membersOf(before)) this.#groupsOf.get(member)?.delete(id);
      for (const member of membersOf(resource)) {
        const own = this.#groupsOf.get(member) ?? new Set();
        own.add(id);
        this.#groupsOf.set(member, own);
      }
    }
    if (resource) {
      all.set(id, resource);
      names.set(nameOf(type, resource).toLowerCase(), id);
    } else all.delete(id);
    this.#next = Math.max(this.#next, Number(id.slice(id.lastIndexOf('-') + 1)) + 1);
  }
}

export const nameOf = (type: TypeName, resource: Record<string, unknown>): string =>
  String(resource[type === 'User' ? 'userName' : 'displayName'] ?? '');

export const membersOf = (resource: Record<string, unknown> | null | undefined): string[] =>
  Array.isArray(resource?.members) ? resource.members.map(one => String((one as { value?: unknown }).value)) : [];
