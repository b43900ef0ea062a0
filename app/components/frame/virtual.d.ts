declare module "virtual:licences" {
  /** What is shipped with the app. */
  const packages: { name: string; version: string; licence: string }[];
  export default packages;
}
