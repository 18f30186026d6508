declare module '7z-wasm/7zz.es6.js' {
  export * from '7z-wasm';
  export { default } from '7z-wasm';
}
