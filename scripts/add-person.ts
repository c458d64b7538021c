import { migrate } from '../server/db/migrate';
import { sequelize } from '../server/db/connection';
import { addPerson } from '../server/services/people.server';

/** npm run add-person -- "Name" "a password": the first account of a library without the demo. */
async function main(): Promise<void> {
  const [name, password] = process.argv.slice(2);
  if (!name || !password || password.length < 10) throw new Error('Give a name and a password of at least 10 letters.');
  await migrate();
  const result = await addPerson(name, password, null, 'keeper');
  process.stdout.write(result.ok ? `${name} can sign in now.\n` : `Somebody called ${name} is here already.\n`);
  await sequelize.close();
}

main().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
