// npm run words: all that can be said, and where it is said; and whether a text was put together where a number would get lost.
import { readFileSync } from 'node:fs';
import { relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

/** A program of the whole application, as the compiler sees it. */
function programOf() {
  const { config } = ts.readConfigFile('tsconfig.json', name => readFileSync(name, 'utf8'));
  const { fileNames, options } = ts.parseJsonConfigFileContent(config, ts.sys, '.');
  return ts.createProgram(fileNames, { ...options, noEmit: true });
}

const isOurs = file =>
  /(^|\/)src\/.*\.tsx?$/.test(file.fileName) && !/\.(test|d)\.tsx?$|\/node_modules\//.test(file.fileName);

/** Whether a type may be a number or a name of a text: put into a plain string it would read “[object Object]”. */
function carriesNumbers(type, checker, seen = new Set()) {
  if (seen.has(type)) return false;
  seen.add(type);
  if (type.isUnion()) return type.types.some(t => carriesNumbers(t, checker, seen));
  const name = type.aliasSymbol?.name ?? type.symbol?.name;
  if (name === 'Quantity' || name === 'Name' || name === 'Words') return true;
  const item = checker.isArrayType(type) ? checker.getTypeArguments(type)[0] : undefined;
  return item !== undefined && carriesNumbers(item, checker, seen);
}

const UNIT = '(mm|cm|mm²|cm²|dm²|mL|°C|°F)(?![\\w²/-])';
const MEASURE = new RegExp(`\\d ${UNIT}`);
/** Behind a value that is put in. */
const AFTER = new RegExp(`^ ${UNIT}`);
/** What something is called by those who make it. */
const NAMES = /^5 mm of paper left round it$/;

/** Whether a number of a text lies anywhere in what is written into a file, as deep as files go. */
function holdsNumbers(type, checker, node, depth = 0) {
  if (carriesNumbers(type, checker)) return true;
  if (depth > 5 || !(type.flags & (ts.TypeFlags.Object | ts.TypeFlags.UnionOrIntersection))) return false;
  if (type.isUnion()) return type.types.some(t => holdsNumbers(t, checker, node, depth + 1));
  const item = checker.isArrayType(type) || checker.isTupleType(type) ? checker.getTypeArguments(type) : [];
  if (item.length) return item.some(t => holdsNumbers(t, checker, node, depth + 1));
  return checker
    .getPropertiesOfType(type)
    .some(p => holdsNumbers(checker.getTypeOfSymbolAtLocation(p, node), checker, node, depth + 1));
}

/** What stands in a tagged text, with a place for each value. */
const textOf = template =>
  ts.isNoSubstitutionTemplateLiteral(template)
    ? template.text
    : [
        template.head.text,
        ...template.templateSpans.map(s => `{${s.expression.getText()}}${s.literal.text}`),
      ].join('');

/**
 * All texts with numbers or names in them, all places where one would be lost, and all measures that are put into a
 * text by hand, in millimetres for everybody.
 *
 * @typedef {{ where: string, text: string }} Found
 * @returns {{ said: Found[], lost: Found[], byHand: Found[], files: string[] }}
 */
export function wordsOf() {
  const program = programOf();
  const checker = program.getTypeChecker();
  const [said, lost, byHand] = [[], [], []];
  const ours = program.getSourceFiles().filter(isOurs);
  for (const file of ours) {
    const where = node =>
      `${relative('.', file.fileName)}:${file.getLineAndCharacterOfPosition(node.getStart()).line + 1}`;
    const carries = node => carriesNumbers(checker.getTypeAtLocation(node), checker);
    const lose = node => lost.push({ where: where(node), text: node.getText().slice(0, 100) });
    const measure = (node, before, text) => {
      if (!NAMES.test(text) && (before ? AFTER : MEASURE).test(text))
        byHand.push({ where: where(node), text });
    };
    const visit = node => {
      if (
        ts.isStringLiteral(node) ||
        ts.isNoSubstitutionTemplateLiteral(node) ||
        ts.isJsxText(node) ||
        ts.isTemplateHead(node)
      )
        measure(node, false, node.text);
      if (ts.isTemplateMiddle(node) || ts.isTemplateTail(node)) {
        measure(node, true, node.text);
        measure(node, false, node.text);
      }
      if (ts.isTaggedTemplateExpression(node) && node.tag.getText() === 'say')
        said.push({ where: where(node), text: textOf(node.template) });
      else if (ts.isTemplateExpression(node) && !ts.isTaggedTemplateExpression(node.parent))
        for (const { expression } of node.templateSpans) if (carries(expression)) lose(expression);
      if (
        ts.isBinaryExpression(node) &&
        node.operatorToken.kind === ts.SyntaxKind.PlusToken &&
        (carries(node.left) || carries(node.right))
      )
        lose(node);
      if (ts.isCallExpression(node)) {
        const { expression, arguments: given } = node;
        if (
          ts.isPropertyAccessExpression(expression) &&
          expression.name.text === 'join' &&
          carries(expression.expression)
        )
          lose(node);
        // A table has cells of text, and what a command writes is read by other programs.
        const isFile =
          expression.getText() === 'Papa.unparse' ||
          (expression.getText() === 'JSON.stringify' && /\/cli\//.test(file.fileName));
        if (isFile && holdsNumbers(checker.getTypeAtLocation(given[0]), checker, given[0])) lose(node);
        if (expression.getText() === 'String' && given.length && carries(given[0])) lose(node);
      }
      ts.forEachChild(node, visit);
    };
    visit(file);
  }
  return { said, lost, byHand, files: ours.map(file => relative('.', file.fileName)) };
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const { said, lost, byHand } = wordsOf();
  for (const { where, text } of said) console.log(`${where}\t${text}`);
  console.log(`${said.length} texts with numbers or names in them`);
  for (const { where, text } of lost) console.log(`lost at ${where}: ${text}`);
  for (const { where, text } of byHand) console.log(`measured by hand at ${where}: ${text}`);
  process.exitCode = lost.length + byHand.length ? 1 : 0;
}
