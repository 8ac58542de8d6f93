declare module 'virtual:open-texts/*' {
  const texts: Record<string, string>
  export default texts
}
declare module 'virtual:worker-texts' {
  const texts: Record<'en' | 'de', Record<string, string>>
  export default texts
}
