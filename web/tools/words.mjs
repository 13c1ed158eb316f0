import ts from "typescript";

/**
 * Which strings of a source file are words for a person. What a machine reads (classes, keys, addresses, words of the
 * protocol) is told from them by where it stands and how it is written, never by a list of texts.
 */

/** Attributes that a person reads, of elements and of our own components. */
const READ =
  /^(aria-label|label|title|placeholder|alt|hint|doing|none|aside|caution|what|about|nowLabel|begins|children|suffix|extra|description|message|okText|cancelText|header)$/;
/** Attributes that only a machine reads. */
const WIRED =
  /^(className|role|type|to|key|id|d|viewBox|transform|htmlType|autoComplete|aria-(hidden|live|current|haspopup|controls|labelledby|describedby|pressed|expanded)|textAnchor|inputMode|verdict|accept|kind|href|target|rel|scope|quantity|path|preserveAspectRatio|patternUnits|patternTransform|clipPath|fill|stroke|color|bgColor|size|autoCapitalize|dy|dx|x|y|rx|ry|x1|x2|y1|y2|width|height|name|value|variant|status|mode|placement|style|data-.*|htmlFor|form|download|src|rootClassName|popupClassName|dominantBaseline|mask|filter|markerEnd|orientation|enterKeyHint|method|capture|lang)$/;
/** Calls whose strings are no words. */
const MACHINE =
  /(\.|^)(addEventListener|removeEventListener|get|set|has|includes|startsWith|endsWith|indexOf|split|querySelector|querySelectorAll|getAttribute|setAttribute|postMessage|createElement|matchMedia|getElementById|closest|useKey|lazy|fetch|match|test|replace|replaceAll|open|createObjectStore|dispatchEvent|CustomEvent|Event|RegExp|Error|Worker|URL|DateTimeFormat|NumberFormat|invalidateQueries|useState|say|rich|api\.\w+|runPython\w*|registerServiceWorker|supportedValuesOf|BroadcastChannel|figure|maybe|GET|PUT|POST|PATCH|DELETE|getItem|setItem|removeItem|DOMException|useFace|toggle|append|shownAs|\w*[sS]een\w*)$/;
/** Properties whose strings are no words. */
const NAMES =
  /^(value|do|kind|id|key|slug|type|slot|name|mode|timeZone|fill|stroke|className|mounting|path|fontFamily)$/;
const KEY_NAMES =
  /^(Arrow(Left|Right|Up|Down)|Escape|Enter|Space|Tab|Home|End|PageUp|PageDown|Shift|Delete|Backspace)$/;
/** Symbols of units are the same in every language. */
const UNIT =
  /^[\d\s·,.()+−×/–-]*(mm²?|cm|km|m²|kW|kWp|kWh|Wh|VA|kVA|var|kvar|Hz|mHz|Nm|MΩ|kΩ|Ah|mA|kA|kg|min|ms|dB|dBm|MB|kB|AWG|AC|DC|PE|Pa|kPa|lx|rpm|bar|W\/m²|N\/m²|cos φ|rad)[\s·,()/–-]*$/;

const isString = (node) => ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node);

/** The text that stands for itself in a string or template; what is put in is a mark. */
export function textOf(node) {
  if (isString(node)) return node.text;
  return node.head.text + node.templateSpans.map((span) => `\u0001${span.literal.text}`).join("");
}

/** The JSX attribute or child that a node becomes the value of, through choices and brackets. */
function placeOf(node) {
  for (let at = node; at.parent !== undefined; at = at.parent) {
    const { parent } = at;
    if (ts.isJsxAttribute(parent)) return { attribute: parent.name.getText() };
    if (ts.isJsxExpression(parent)) {
      if (ts.isJsxAttribute(parent.parent)) return { attribute: parent.parent.name.getText() };
      return { child: true };
    }
    const passes =
      ts.isParenthesizedExpression(parent) ||
      (ts.isConditionalExpression(parent) && parent.condition !== at) ||
      (ts.isBinaryExpression(parent) && /^(&&|\|\||\?\?|\+)$/.test(parent.operatorToken.getText())) ||
      ts.isTemplateSpan(parent) ||
      ts.isTemplateExpression(parent);
    if (!passes) return {};
  }
  return {};
}

/** Whether a string stands where no word stands: a name, a type, something compared. */
function isWired(node) {
  const { parent } = node;
  if (
    ts.isImportDeclaration(parent) ||
    ts.isExportDeclaration(parent) ||
    ts.isLiteralTypeNode(parent) ||
    ts.isExternalModuleReference(parent) ||
    ts.isCaseClause(parent) ||
    ts.isElementAccessExpression(parent) ||
    ts.isEnumMember(parent) ||
    ts.isPropertySignature(parent)
  )
    return true;
  if (ts.isPropertyAssignment(parent) && (parent.name === node || NAMES.test(parent.name.getText()))) return true;
  if (ts.isBinaryExpression(parent) && /^([=!]==?|in|[<>]=?)$/.test(parent.operatorToken.getText())) return true;
  if ((ts.isCallExpression(parent) || ts.isNewExpression(parent)) && parent.expression !== node) {
    return MACHINE.test(parent.expression.getText()) || parent.expression.kind === ts.SyntaxKind.ImportKeyword;
  }
  // A template for a class or an address stays one however deep its parts stand.
  for (let at = parent; at !== undefined; at = at.parent) {
    if (ts.isFunctionLike(at)) return false;
    if (ts.isJsxAttribute(at)) return WIRED.test(at.name.getText());
  }
  return false;
}

/** A type or a serial, as a plate has it. */
const PLATE = /^[A-Z0-9-]*\d[A-Z0-9-]*$/;

function hasWord(text) {
  const bare = text.replaceAll("\u0001", "");
  return /[A-Za-zÀ-ÿ]{2,}/.test(bare) && !UNIT.test(bare) && !PLATE.test(bare);
}

/** Written as a sentence or a title is: words with spaces between them, or one that begins as a title does. */
function isWorded(text) {
  const bare = text.replaceAll("\u0001", "");
  if (!hasWord(text) || KEY_NAMES.test(bare) || /^([a-z]+(-[a-z]+)+ ?)+$/.test(bare)) return false;
  if (
    /^\s*(\/|\.\/|\.\.\/|#|M\u0001|\((min|max)-|url\(|:is\(|[a-z_]+\/\u0001$|translate\(|rotate\(|scale\(|data:|blob:|http|import |\?)/.test(
      text,
    )
  )
    return false;
  if (/(^| )[a-z]+(-[a-z]+)*-\u0001|=\u0001|\[[a-z-]+[=\]]|\w:\s*[\w\u0001]+;|\/api\//.test(text)) return false;
  if (text.includes("\u0001"))
    return /(^|[\s\u0001(,·])[A-Za-z’']{2,}[,.:]?(\s|$|\u0001)/.test(text) && /\s/.test(text);
  return (
    /[A-Za-zé]{2,}[,.:;)]? [(“\u0001]?[A-Za-z0-9é]/.test(text) ||
    /^\s*[A-Z][a-z]+([\s,.!?:]|$)/.test(text) ||
    /^\s*[,·:;–] ?[a-z]{2,}/.test(text)
  );
}

/** Taken from the file of words already. */
const isSaid = (node) => ts.isCallExpression(node) && /^(say|rich)$/.test(node.expression.getText());

const valueIn = (parent, node) =>
  (ts.isPropertyAssignment(parent) && parent.initializer === node) || ts.isArrayLiteralExpression(parent);

/** Where words stand among names: the last of a row in a table, the values of a record of words. */
function isAmongWords(node) {
  const { parent } = node;
  if (!valueIn(parent, node)) return false;
  if (ts.isArrayLiteralExpression(parent)) {
    const table = parent.parent;
    const last = parent.elements.length - 1;
    if (last === 0 || parent.elements[last] !== node || !isString(parent.elements[0])) return false;
    if (!ts.isArrayLiteralExpression(table)) return false;
    const lasts = table.elements.map((one) => ts.isArrayLiteralExpression(one) && one.elements[last]);
    return lasts.some(
      (one) =>
        one && (isSaid(one) || (isString(one) && (isWorded(one.text) || one.text === one.parent.elements[0].text))),
    );
  }
  const values = parent.parent.properties.map((one) => ts.isPropertyAssignment(one) && one.initializer);
  if (values.length < 2 || !values.every((one) => one && (isString(one) || isSaid(one)))) return false;
  // What is called as its name is, is a word too: nobody would write it twice else.
  const named = (one) => one.parent.name.getText() === one.text;
  return values.filter((one) => isSaid(one) || isWorded(one.text) || named(one)).length * 2 >= values.length;
}

/** Whether a string or a template is words for a person. */
export function isWords(node) {
  const text = textOf(node);
  if (!hasWord(text) || isWired(node) || /^\s*import sys/.test(text)) return false;
  const place = placeOf(node);
  if (place.attribute !== undefined && WIRED.test(place.attribute)) return false;
  if (place.child === true) return !KEY_NAMES.test(text);
  if (place.attribute !== undefined && READ.test(place.attribute)) return !/^[a-z]+(_[a-z_]+|\/\u0001)$/.test(text);
  return isWorded(text) || (isString(node) && isAmongWords(node));
}

/** Whether text between tags is words: what is only a sign or a unit is not. */
export const isWordText = (node) => ts.isJsxText(node) && hasWord(node.text.replace(/&\w+;/g, " ").trim());

/** Whether a node is a string that could be words at all. */
export const isStringLike = (node) => isString(node) || ts.isTemplateExpression(node);

/** The tree of a file. */
export function treeOf(path, source) {
  const kind = path.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS;
  return ts.createSourceFile(path, source, ts.ScriptTarget.Latest, true, kind);
}
