import type ts from "typescript";

export function isWords(node: ts.StringLiteralLike | ts.TemplateExpression): boolean;
export function isWordText(node: ts.Node): boolean;
export function isStringLike(node: ts.Node): node is ts.StringLiteralLike | ts.TemplateExpression;
export function treeOf(path: string, source: string): ts.SourceFile;
