// Copies what the program ships from node_modules into crates/web/static/vendor: the minified files,
// the fonts as their packages hold them, and each package's licence. The copies are committed, so that
// building needs no npm; the test command checks that they are the same.
import { cpSync, existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import * as sass from 'sass';

const out = 'crates/web/static/vendor';
const version = (pkg) => JSON.parse(readFileSync(`node_modules/${pkg}/package.json`, 'utf8')).version;

rmSync(out, { recursive: true, force: true });
mkdirSync(out, { recursive: true });

/** Copies a file; maps are not shipped, so the line that names one goes. */
function copy(from, to) {
  const text = readFileSync(from, 'utf8').replace(/^.*[#@] sourceMappingURL=.*$\n?/gm, '');
  writeFileSync(to, text);
}

function shipped(name, pkg, files, licence) {
  const dir = join(out, name);
  mkdirSync(dir, { recursive: true });
  for (const [from, to] of files) copy(`node_modules/${pkg}/${from}`, join(dir, to));
  const own = licence ?? ['LICENSE', 'LICENSE.md'].map((f) => `node_modules/${pkg}/${f}`).find(existsSync);
  if (own) cpSync(own, join(dir, 'LICENSE'));
  writeFileSync(join(dir, 'VERSION'), `${pkg} ${version(pkg)}\n`);
  return dir;
}

// Of Bootstrap only what the pages use: a fifth of the whole.
const bootstrap = shipped('bootstrap', 'bootstrap', []);
const { css } = sass.compile('scripts/bootstrap.scss', { style: 'compressed', charset: false, loadPaths: ['node_modules'], quietDeps: true, silenceDeprecations: ['import'] });
const banner = '/*! Bootstrap, parts of it. The Bootstrap Authors, MIT: see LICENSE. */';
writeFileSync(join(bootstrap, 'bootstrap.min.css'), `${banner}\n${css}\n`);
shipped('alpine', '@alpinejs/csp', [['dist/cdn.min.js', 'alpine-csp.min.js']], 'scripts/licences/alpine.txt');
shipped('alpine-ajax', '@imacrayon/alpine-ajax', [['dist/cdn.min.js', 'alpine-ajax.min.js']]);
for (const [name, pkg, sheets] of [
  ['besley', '@fontsource-variable/besley', ['wght.css', 'wght-italic.css']],
  ['atkinson', '@fontsource-variable/atkinson-hyperlegible-next', ['wght.css']],
]) {
  const dir = shipped(name, pkg, sheets.map((s) => [s, s]));
  mkdirSync(join(dir, 'files'));
  const wanted = sheets.map((s) => readFileSync(`node_modules/${pkg}/${s}`, 'utf8')).join('');
  for (const file of readdirSync(`node_modules/${pkg}/files`)) {
    if (wanted.includes(file)) cpSync(`node_modules/${pkg}/files/${file}`, join(dir, 'files', file));
  }
}
