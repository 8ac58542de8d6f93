declare module 'virtual:open-texts' {
  const texts: Record<string, string>
  export default texts
}
