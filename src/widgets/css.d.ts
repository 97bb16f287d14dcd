declare module '*.css' {
  const text: string;
  export default text;
}

/** Kinds of widgets by the script that defines their elements; put in by the build (tools/widget-kinds.mjs). */
declare const STALL_FIRST_KINDS: readonly string[];
declare const STALL_MORE_KINDS: readonly string[];
