/**
 * Writes down what the handlers of the API answer and what they say of themselves, read from their types and comments,
 * for the API's description. `--check` only looks whether that file is up to date.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const OUTPUT = 'server/src/kernel/openapi/route-types.json';
const METHODS = new Set(['Get', 'Post', 'Patch', 'Put', 'Delete', 'Sse']);
/** Types that are described though they come in rather than go out. */
const ALSO = ['Question', 'ProblemBody'];

const { config } = ts.readConfigFile(join(root, 'server/tsconfig.json'), ts.sys.readFile);
const { options, fileNames } = ts.parseJsonConfigFileContent(config, ts.sys, join(root, 'server'));
const program = ts.createProgram(
  fileNames.filter((name) => name.endsWith('controller.ts')),
  {
    ...options,
    composite: false,
    noEmit: true,
    rootDir: root,
    paths: {
      '@zawn/core': [join(root, 'core/src/index.ts')],
      '@zawn/core/*': [join(root, 'core/src/*.ts')],
    },
  },
);
const checker = program.getTypeChecker();
const isOurs = (symbol) =>
  symbol.declarations?.some((at) => !at.getSourceFile().fileName.includes('node_modules'));

const schemas = {};
const naming = new Map();

/** The name of a type in the description: `Written<AnyRecord>` is `WrittenAnyRecord`. */
function nameOf(type) {
  const symbol = type.aliasSymbol ?? (type.isClassOrInterface() || type.target ? type.symbol : undefined);
  if (!symbol || !isOurs(symbol) || symbol.name.startsWith('__')) return undefined;
  const given = type.aliasSymbol ? type.aliasTypeArguments : checker.getTypeArguments(type);
  const parts = (given ?? []).map((part) => (part.flags & ts.TypeFlags.Null ? 'Nothing' : nameOf(part)));
  return parts.includes(undefined) ? undefined : symbol.name + parts.join('');
}

function union(types) {
  const literals = types.filter((type) => type.isLiteral());
  const others = types.filter((type) => !type.isLiteral());
  const schemas = others.map(schemaOf);
  if (literals.length > 0) schemas.push({ enum: literals.map(({ value }) => value).sort() });
  const distinct = [...new Map(schemas.map((schema) => [JSON.stringify(schema), schema])).values()];
  // A type that may be null, in the short form that readers expect.
  const plain = distinct.every(
    ({ type }) => typeof type === 'string' && type !== 'object' && type !== 'array',
  );
  const isBoolean = (schema) => schema.type === 'boolean' && 'const' in schema;
  const booleans = distinct.filter(isBoolean);
  if (booleans.length === 2)
    return joined([...distinct.filter((schema) => !isBoolean(schema)), { type: 'boolean' }]);
  return plain && distinct.every((schema) => Object.keys(schema).length === 1)
    ? joined(distinct)
    : distinct.length === 1
      ? distinct[0]
      : { anyOf: distinct };
}

const joined = (schemas) =>
  schemas.length === 1
    ? schemas[0]
    : schemas.every((schema) => Object.keys(schema).length === 1 && schema.type)
      ? { type: schemas.map(({ type }) => type) }
      : { anyOf: schemas };

function objectSchema(type) {
  const properties = {};
  const required = [];
  const members = checker.getPropertiesOfType(type);
  // Members that come from a union have no order of their own.
  if (type.objectFlags & ts.ObjectFlags.Mapped) members.sort((a, b) => (a.name < b.name ? -1 : 1));
  for (const property of members) {
    const own = checker.getTypeOfSymbol(property);
    const said = ts.displayPartsToString(property.getDocumentationComment(checker));
    const schema = schemaOf(own);
    properties[property.name] = said ? { ...schema, description: said } : schema;
    if (!(property.flags & ts.SymbolFlags.Optional)) required.push(property.name);
  }
  const [index] = checker.getIndexInfosOfType(type);
  return {
    type: 'object',
    ...(Object.keys(properties).length > 0 ? { properties } : {}),
    ...(required.length > 0 ? { required } : {}),
    ...(index ? { additionalProperties: schemaOf(index.type) } : {}),
  };
}

function structureOf(type) {
  const { flags } = type;
  if (flags & (ts.TypeFlags.Any | ts.TypeFlags.Unknown)) return {};
  if (flags & ts.TypeFlags.NonPrimitive) return { type: 'object' };
  if (flags & ts.TypeFlags.Null) return { type: 'null' };
  if (flags & ts.TypeFlags.BooleanLiteral) return { type: 'boolean', const: type.intrinsicName === 'true' };
  if (type.isLiteral()) return { const: type.value };
  if (flags & ts.TypeFlags.StringLike) return { type: 'string' };
  if (flags & ts.TypeFlags.NumberLike) return { type: 'number' };
  if (type.isUnion()) return union(type.types.filter((part) => !(part.flags & ts.TypeFlags.Undefined)));
  if (checker.isTupleType(type)) {
    const items = checker.getTypeArguments(type).map(schemaOf);
    return { type: 'array', prefixItems: items, minItems: type.target.minLength, maxItems: items.length };
  }
  if (checker.isArrayType(type)) return { type: 'array', items: schemaOf(checker.getTypeArguments(type)[0]) };
  if (flags & (ts.TypeFlags.Object | ts.TypeFlags.Intersection)) return objectSchema(type);
  throw new Error(`${checker.typeToString(type)} has no JSON form`);
}

/** A type as JSON schema; named types are kept once and referred to. */
function schemaOf(type) {
  const name = nameOf(type);
  if (!name) return structureOf(type);
  const known = naming.get(name);
  if (known === undefined) {
    naming.set(name, type);
    schemas[name] = {};
    const symbol = type.aliasSymbol ?? type.symbol;
    const said = ts.displayPartsToString(symbol.getDocumentationComment(checker)).replaceAll('\n', ' ');
    schemas[name] = said ? { description: said, ...structureOf(type) } : structureOf(type);
  } else if (checker.typeToString(known) !== checker.typeToString(type) || known.symbol !== type.symbol)
    throw new Error(`Two types are named ${name}`);
  return { $ref: `#/components/schemas/${name}` };
}

/** Whether a class answers under the API's address rather than with a page of its own. */
const isOfApi = (node) =>
  (ts.getDecorators(node) ?? []).some(
    ({ expression }) =>
      expression.expression?.getText() === 'Controller' && expression.arguments[0]?.text?.startsWith('api/'),
  );

const decoratorsOf = (node) =>
  (ts.getDecorators(node) ?? []).map(({ expression }) => expression.expression?.getText());

/** The first sentence of a comment, and the rest of it. */
function wordsOf(method, name) {
  const said = ts.displayPartsToString(
    checker.getSymbolAtLocation(method.name).getDocumentationComment(checker),
  );
  const text = said.replaceAll('\n', ' ').trim();
  if (!text) throw new Error(`${name} says nothing of itself`);
  const [summary] = /^.*?[.](?= |$)/.exec(text) ?? [text];
  const rest = text.slice(summary.length).trim();
  return { summary: summary.replace(/\.$/, ''), ...(rest ? { description: rest } : {}) };
}

const handlers = {};
const faults = [];
for (const file of program.getSourceFiles().filter(({ fileName }) => fileName.endsWith('controller.ts')))
  ts.forEachChild(file, (node) => {
    if (!ts.isClassDeclaration(node) || !isOfApi(node)) return;
    for (const method of node.members.filter(ts.isMethodDeclaration)) {
      if (!decoratorsOf(method).some((name) => METHODS.has(name))) continue;
      const name = `${node.name.text}.${method.name.text}`;
      try {
        const type = checker.getAwaitedType(
          checker.getReturnTypeOfSignature(checker.getSignatureFromDeclaration(method)),
        );
        const isNothing = type.flags & ts.TypeFlags.Void || decoratorsOf(method).includes('Sse');
        handlers[name] = { ...wordsOf(method, name), ...(isNothing ? {} : { answer: schemaOf(type) }) };
      } catch (error) {
        faults.push(error.message);
      }
    }
  });

const index = program.getSourceFile(join(root, 'core/src/index.ts'));
for (const symbol of checker.getExportsOfModule(checker.getSymbolAtLocation(index)))
  if (ALSO.includes(symbol.name)) {
    const real = symbol.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(symbol) : symbol;
    schemaOf(checker.getDeclaredTypeOfSymbol(real));
  }

if (faults.length > 0) {
  console.error(faults.join('\n'));
  process.exit(1);
}

/** One line an entry, so that a change of the API reads as such. */
const lines = (entries) =>
  Object.entries(entries)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([key, value]) => `    ${JSON.stringify(key)}: ${JSON.stringify(value)}`)
    .join(',\n');
const written = `{\n  "handlers": {\n${lines(handlers)}\n  },\n  "schemas": {\n${lines(schemas)}\n  }\n}\n`;

const path = join(root, OUTPUT);
if (!process.argv.includes('--check')) writeFileSync(path, written);
else if (readFileSync(path, 'utf8') !== written) {
  console.error(`${OUTPUT} is not what the handlers say now. Run npm run route-types.`);
  process.exit(1);
}
