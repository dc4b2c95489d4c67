/** Says in passing what came between; what a person typed stays where it is. */
export function tell(error: unknown, failed: string) {
  ElMessage({ type: 'error', message: problemOf(error, failed).message, duration: 6000, showClose: true })
}
