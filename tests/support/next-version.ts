import { cpSync, mkdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';

/**
 * What the next version might be: this one with one change more of the database, which alters tables that are written all the time, makes an
 * index and changes rows. Its changes, and its build to start from.
 */
export function nextVersion(folder: string): { migrations: string; build: string } {
	const migrations = join(folder, 'drizzle');
	cpSync('drizzle', migrations, { recursive: true });
	const file = join(migrations, 'meta/_journal.json');
	const journal = JSON.parse(readFileSync(file, 'utf8')) as {
		entries: { idx: number; version: string; when: number; tag: string; breakpoints: boolean }[];
	};
	const last = journal.entries.at(-1)!;
	journal.entries.push({ ...last, idx: last.idx + 1, when: last.when + 1, tag: '9999_next' });
	writeFileSync(file, JSON.stringify(journal));
	const statements = [
		'ALTER TABLE `reading` ADD `later` int DEFAULT 0 NOT NULL;',
		'CREATE INDEX `reading_later` ON `reading` (`later`);',
		...Array.from({ length: 10 }, () => 'UPDATE `reading` SET `later` = `later` + 1;'),
		'ALTER TABLE `run_event` ADD `later` int DEFAULT 0 NOT NULL;'
	];
	writeFileSync(join(migrations, '9999_next.sql'), statements.join('--> statement-breakpoint\n'));
	const build = join(folder, 'build');
	mkdirSync(build);
	cpSync('build/bin', join(build, 'bin'), { recursive: true });
	symlinkSync(resolve('build/app'), join(build, 'app'));
	symlinkSync(resolve('node_modules'), join(folder, 'node_modules'));
	return { migrations, build };
}
