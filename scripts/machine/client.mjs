/** How MariaDB's own tools reach the house's database. */
import { Trouble } from './say.mjs';

/** @param {string | undefined} url the address in NP_DATABASE; the password goes by the environment, where nobody lists it */
export function clientOf(url) {
  if (!url || !URL.canParse(url)) throw new Trouble('NP_DATABASE must be the address of the database.');
  const { hostname, port, username, password, pathname } = new URL(url);
  const schema = pathname.slice(1);
  if (!/^\w+$/.test(schema)) throw new Trouble('NP_DATABASE must end with the name of the database.');
  return {
    schema,
    args: ['--protocol=tcp', `--host=${hostname}`, `--port=${port || 3306}`, `--user=${decodeURIComponent(username)}`],
    env: { ...process.env, MYSQL_PWD: decodeURIComponent(password) },
  };
}
