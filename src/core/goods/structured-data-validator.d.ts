declare module '@adobe/structured-data-validator' {
  /** Only what the tests ask for; the package has no types of its own. */
  export default class Validator {
    validate(data: { jsonld: object; microdata: object; rdfa: object }): Promise<unknown[]>;
  }
}
