declare module "*.ftl?pages" {
  const words: string;
  export default words;
}
