/**
 * The keys that seals are made with (HMAC-SHA-256) and secrets are hidden with (AES-256-GCM). They stand in a file beside the
 * database and never in it, so that whoever may write to the database alone can neither make a seal nor read a secret.
 *
 * The file has one key a line, 64 hexadecimal digits. What is new is sealed with the first; the others still bear out what
 * they sealed. Every seal begins with the id of its key, which is the beginning of the key's own digest.
 */
import { createCipheriv, createDecipheriv, createHash, createHmac, hkdfSync, randomBytes } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';

type Key = { readonly id: string; readonly forSeals: Buffer; readonly forSecrets: Buffer };

/** A key file that is not there or not whole: whoever runs the house must set it right. */
export class KeysMissing extends Error {}

const line = /^[0-9a-f]{64}$/i;
const idLength = 8;
const ivLength = 12;
const tagLength = 16;

function keyOf(text: string): Key {
  const whole = Buffer.from(text, 'hex');
  const part = (use: string) => Buffer.from(hkdfSync('sha256', whole, '', `north-pebble ${use}`, 32));
  const id = createHash('sha256').update(whole).digest('hex').slice(0, idLength);
  return { id, forSeals: part('seals'), forSecrets: part('secrets') };
}

function keysIn(file: string): Key[] {
  if (!existsSync(file))
    throw new KeysMissing(`The file of the house’s keys, ${file}, is not there. NP_SEAL_KEYS says where it is.`);
  const lines = readFileSync(file, 'utf8')
    .split('\n')
    .map(text => text.trim())
    .filter(text => text !== '');
  if (lines.length === 0 || !lines.every(text => line.test(text)))
    throw new KeysMissing(`${file} must hold one key a line, 64 hexadecimal digits each.`);
  return lines.map(keyOf);
}

/** What a seal says of a text: it bears it out, it does not, or its key is not in the file. */
export type Borne = 'borne out' | 'not borne out' | 'key unknown';

export class Keys {
  readonly file: string;
  #keys: readonly Key[] | null = null;

  /** Reads the file when the first seal is made. */
  constructor(file: string) {
    this.file = file;
  }

  get ids(): readonly string[] {
    return this.#all().map(key => key.id);
  }

  /** Makes the file with a first key, where there is none. @returns whether it was made */
  makeIfMissing(): boolean {
    if (existsSync(this.file)) return false;
    try {
      writeFileSync(this.file, `${randomBytes(32).toString('hex')}\n`, { mode: 0o600, flag: 'wx' });
    } catch (fault) {
      // Another server was faster, and its key counts.
      if ((fault as { code?: string }).code !== 'EEXIST')
        throw new KeysMissing(
          `The file of the house’s keys, ${this.file}, cannot be written: ${(fault as Error).message}`,
        );
    }
    return true;
  }

  /** @returns the id of the newest key, a dot, and the seal: 52 letters */
  seal(text: string): string {
    return this.#sealWith(this.#newest(), text);
  }

  bears(seal: string | null, text: string): Borne {
    const key = this.#of(seal ?? '');
    if (!key) return seal?.includes('.') ? 'key unknown' : 'not borne out';
    return this.#sealWith(key, text) === seal ? 'borne out' : 'not borne out';
  }

  /** A secret as it may stand in the database. @param of what it is of: moved elsewhere it opens no more */
  hide(secret: string, of: string): string {
    const key = this.#newest();
    const iv = randomBytes(ivLength);
    const cipher = createCipheriv('aes-256-gcm', key.forSecrets, iv).setAAD(Buffer.from(of));
    const hidden = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
    return `${key.id}.${Buffer.concat([iv, cipher.getAuthTag(), hidden]).toString('base64url')}`;
  }

  /** @throws {KeysMissing} when its key is not in the file, or it was changed */
  show(hidden: string, of: string): string {
    const key = this.#of(hidden);
    const bytes = Buffer.from(hidden.slice(idLength + 1), 'base64url');
    try {
      if (!key) throw new Error('no such key');
      const cipher = createDecipheriv('aes-256-gcm', key.forSecrets, bytes.subarray(0, ivLength))
        .setAAD(Buffer.from(of))
        .setAuthTag(bytes.subarray(ivLength, ivLength + tagLength));
      return Buffer.concat([cipher.update(bytes.subarray(ivLength + tagLength)), cipher.final()]).toString('utf8');
    } catch {
      throw new KeysMissing(`A secret of ${of} cannot be read with the keys in ${this.file}.`);
    }
  }

  #sealWith(key: Key, text: string): string {
    return `${key.id}.${createHmac('sha256', key.forSeals).update(text).digest('base64url')}`;
  }

  #all(): readonly Key[] {
    this.#keys ??= keysIn(this.file);
    return this.#keys;
  }

  #newest(): Key {
    return this.#all()[0];
  }

  /** Another server may have begun to use a key that was added since the file was read. */
  #of(seal: string): Key | undefined {
    if (seal[idLength] !== '.') return undefined;
    const id = seal.slice(0, idLength);
    const known = this.#all().find(key => key.id === id);
    if (known) return known;
    this.#keys = keysIn(this.file);
    return this.#keys.find(key => key.id === id);
  }
}

/** Where the keys are, unless the house is told otherwise. */
export const keysOfHouse = (): Keys => new Keys(process.env.NP_SEAL_KEYS ?? 'seal.keys');

/** Whether a value is hidden, and not the secret itself as it stood before there were keys. */
export const isHidden = (value: string): boolean => value[idLength] === '.';
