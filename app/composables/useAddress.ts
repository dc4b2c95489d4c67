/** A text that stands in the address, so that Back, reload and a link keep it; nothing is no key. */
export function useAddress(key: string) {
  const route = useRoute()
  const router = useRouter()
  return computed<string>({
    get: () => (typeof route.query[key] === 'string' ? route.query[key] : ''),
    set: (text) => {
      const { [key]: _, ...rest } = route.query
      void router.replace({ query: text ? { ...rest, [key]: text } : rest })
    },
  })
}
