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
  /\/src\/.*\.tsx?$/.test(file.fileName) && !/\.(test|d)\.tsx?$|\/node_modules\//.test(file.fileName);

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

/** What stands in a tagged text, with a place for each value. */
const textOf = template =>
  ts.isNoSubstitutionTemplateLiteral(template)
    ? template.text
    : [
        template.head.text,
        ...template.templateSpans.map(s => `{${s.expression.getText()}}${s.literal.text}`),
      ].join('');

/**
 * All texts with numbers or names in them, and all places where one would be lost.
 *
 * @returns {{ said: { where: string, text: string }[], lost: { where: string, text: string }[] }}
 */
export function wordsOf() {
  const program = programOf();
  const checker = program.getTypeChecker();
  const [said, lost] = [[], []];
  for (const file of program.getSourceFiles().filter(isOurs)) {
    const where = node =>
      `${relative('.', file.fileName)}:${file.getLineAndCharacterOfPosition(node.getStart()).line + 1}`;
    const carries = node => carriesNumbers(checker.getTypeAtLocation(node), checker);
    const lose = node => lost.push({ where: where(node), text: node.getText().slice(0, 100) });
    const visit = node => {
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
        if (expression.getText() === 'String' && given.length && carries(given[0])) lose(node);
      }
      ts.forEachChild(node, visit);
    };
    visit(file);
  }
  return { said, lost };
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const { said, lost } = wordsOf();
  for (const { where, text } of said) console.log(`${where}\t${text}`);
  console.log(`${said.length} texts with numbers or names in them`);
  for (const { where, text } of lost) console.log(`lost at ${where}: ${text}`);
  process.exitCode = lost.length ? 1 : 0;
}
