import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

const src = fileURLToPath(new URL('../src/', import.meta.url));

/** A number, or a row of numbers, that the computation goes by. */
export interface Constant {
  readonly area: string;
  readonly name: string;
  readonly value: string;
  /** what it is, its unit and where it comes from; empty where nothing is said */
  readonly says: string;
}

/** Every named constant of the core, as the code has it, by area and name. */
export function constantsOf(): Constant[] {
  const files = ts.sys.readDirectory(src, ['.ts']);
  const found = files.flatMap((file) => {
    const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.ES2022, true);
    return source.statements.filter(ts.isVariableStatement).flatMap((statement) => {
      const [{ name, initializer }] = statement.declarationList.declarations as unknown as [ts.VariableDeclaration];
      if (!ts.isIdentifier(name) || !/^[A-Z][A-Z0-9_]*$/.test(name.text) || !initializer) return [];
      // A name for another constant is none of its own.
      if (ts.isIdentifier(initializer)) return [];
      const value = initializer
        .getText()
        .replace(/\s+/g, ' ')
        .replace(/ as const.*$/, '');
      if (!isNumeric(initializer)) return [];
      const said = ts
        .getJSDocCommentsAndTags(statement)
        .map((doc) => ts.getTextOfJSDocComment((doc as ts.JSDoc).comment));
      const area = file.slice(src.length).split('/')[0]!;
      return [{ area, name: name.text, value, says: said.join(' ').replace(/\s+/g, ' ').trim() }];
    });
  });
  return found.sort((a, b) => (a.area + a.name < b.area + b.name ? -1 : 1));
}

/** Numbers, sums of numbers, and rows or records of nothing but numbers. */
function isNumeric(node: ts.Expression): boolean {
  if (ts.isAsExpression(node) || ts.isSatisfiesExpression(node) || ts.isParenthesizedExpression(node))
    return isNumeric(node.expression);
  if (ts.isNumericLiteral(node)) return true;
  if (ts.isPrefixUnaryExpression(node)) return isNumeric(node.operand);
  if (ts.isBinaryExpression(node)) return isNumeric(node.left) && isNumeric(node.right);
  if (ts.isIdentifier(node)) return /^[A-Z][A-Z0-9_]*$/.test(node.text);
  if (ts.isArrayLiteralExpression(node)) return node.elements.length > 0 && node.elements.every(isNumeric);
  if (ts.isObjectLiteralExpression(node))
    return (
      node.properties.length > 0 &&
      node.properties.every((each) => ts.isPropertyAssignment(each) && isNumeric(each.initializer))
    );
  return false;
}

/** The constants as a page. */
export function constantsPage(constants: readonly Constant[]): string {
  const areas = [...new Set(constants.map(({ area }) => area))];
  const cell = (text: string) => text.replaceAll('|', '\\|');
  return `# Constants

Every number that the computation goes by, as the code has it. Made from the code, never by hand:
\`npx vitest run --root core test/library.test.ts -u\` writes it anew. What the model makes of them, and where those that matter come from, stands in
[model.md](model.md).
${areas
  .map((area) => {
    const rows = constants.filter((each) => each.area === area);
    return `
## ${area}/

| constant | value | what it is |
| --- | --- | --- |
${rows.map(({ name, value, says }) => `| ${name} | ${cell(value)} | ${cell(says)} |`).join('\n')}
`;
  })
  .join('')}`;
}
