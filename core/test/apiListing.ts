import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

const core = fileURLToPath(new URL('..', import.meta.url));
/** Longer types than this are named by what they are alone. */
const LONGEST_TYPE = 90;

/** What one area offers, by name. */
interface Offered {
  readonly name: string;
  readonly kind: 'function' | 'class' | 'constant' | 'type';
  /** as it would be written down */
  readonly form: string;
  /** first sentence of what is said of it; empty where nothing is */
  readonly says: string;
}

/** The areas of the library, as its package.json faces them, and what each of them offers, as the compiler sees it. */
export function areasOffered(): Map<string, Offered[]> {
  const { exports } = JSON.parse(readFileSync(`${core}package.json`, 'utf8')) as {
    exports: Record<string, Record<string, string>>;
  };
  const entries = Object.entries(exports).map(
    ([face, ways]) => [face.slice(2), core + ways['@baumkin/source']!.slice(2)] as const
  );
  const { options } = ts.parseJsonConfigFileContent(
    ts.readConfigFile(`${core}tsconfig.json`, ts.sys.readFile).config,
    ts.sys,
    core
  );
  const program = ts.createProgram(
    entries.map(([, file]) => file),
    options
  );
  const checker = program.getTypeChecker();
  return new Map(
    entries.map(([area, file]) => {
      const module = checker.getSymbolAtLocation(program.getSourceFile(file)!)!;
      const offered = checker.getExportsOfModule(module).map((symbol) => offer(symbol, checker));
      return [area, offered.sort((a, b) => (a.name < b.name ? -1 : 1))];
    })
  );
}

function offer(exported: ts.Symbol, checker: ts.TypeChecker): Offered {
  const symbol = exported.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(exported) : exported;
  const { name } = exported;
  const said = ts.displayPartsToString(symbol.getDocumentationComment(checker)).replace(/\s+/g, ' ');
  const says = /^.*?[.:;](?= |$)|^.*$/.exec(said)?.[0].replace(/[.:;]$/, '') ?? '';
  const short = (text: string, instead: string) => (text.length > LONGEST_TYPE ? instead : text);
  const declaration = symbol.declarations![0]!;
  if (symbol.flags & ts.SymbolFlags.Class) return { name, kind: 'class', form: name, says };
  if (!(symbol.flags & ts.SymbolFlags.Value)) return { name, kind: 'type', form: name, says };
  const type = checker.getTypeOfSymbolAtLocation(symbol, declaration);
  const [signature] = type.getCallSignatures();
  const format = ts.TypeFormatFlags.OmitParameterModifiers | ts.TypeFormatFlags.WriteArrayAsGenericType;
  if (!signature || symbol.flags & ts.SymbolFlags.Variable) {
    const value = ts.isVariableDeclaration(declaration) ? declaration.initializer?.getText() : undefined;
    const isValue = value !== undefined && /^[-\d_.'"][^\n]*$/.test(value);
    const form = isValue
      ? `${name} = ${value}`
      : `${name}: ${short(checker.typeToString(type, declaration, format), '…')}`;
    return { name, kind: 'constant', form, says };
  }
  const parameters = signature.parameters.map((parameter) => {
    const at = parameter.valueDeclaration as ts.ParameterDeclaration;
    const of = at.type?.getText() ?? checker.typeToString(checker.getTypeOfSymbolAtLocation(parameter, at));
    const called = parameter.name.startsWith('__') ? 'options' : parameter.name;
    return `${called}${at.questionToken || at.initializer ? '?' : ''}: ${short(inLine(of), '…')}`;
  });
  const declared = (declaration as ts.FunctionDeclaration).type?.getText();
  const back = short(inLine(declared ?? checker.typeToString(signature.getReturnType())), '…');
  return { name, kind: 'function', form: `${name}(${parameters.join(', ')}): ${back}`, says };
}

const inLine = (type: string) => type.replace(/\s+/g, ' ');

/** The listing as a page. */
export function apiListing(areas: ReturnType<typeof areasOffered>): string {
  const headings = { function: 'Functions', class: 'Classes', constant: 'Constants', type: 'Types' } as const;
  return (
    [
      '# What the core offers',
      'Made from the code, never by hand: `npx vitest run --root core test/library.test.ts -u` writes it anew. A type too long to be read on a line stands as “…”.',
      ...[...areas].flatMap(([area, offered]) => [
        `## @baumkin/core/${area}`,
        ...Object.entries(headings).flatMap(([kind, heading]) => {
          const lines = offered.filter((each) => each.kind === kind);
          if (lines.length === 0) return [];
          return [`**${heading}**`, lines.map(({ form, says }) => `- \`${form}\`${says ? ` ${says}` : ''}`).join('\n')];
        })
      ]),
      ''
    ]
      .join('\n\n')
      .trimEnd() + '\n'
  );
}
