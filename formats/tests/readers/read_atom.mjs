// Reads an Atom feed with feedsmith and writes it as JSON, for tests.
import { readFileSync } from 'node:fs';
import { parseFeed } from 'feedsmith';

process.stdout.write(JSON.stringify(parseFeed(readFileSync(process.argv[2], 'utf8'))));
