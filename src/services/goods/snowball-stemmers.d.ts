declare module 'snowball-stemmers' {
  const stemmers: { newStemmer: (language: string) => { stem: (word: string) => string } };
  export default stemmers;
}
