import * as yup from 'yup'

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[1-8][0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/

/** A UUID of any version in lower case (yup's own check knows versions 1 to 5 only; ours are version 7). */
export const uuid = () => yup.string().strict().matches(UUID, '${path} must be a UUID')

export const isUuid = (text: string): boolean => UUID.test(text)
