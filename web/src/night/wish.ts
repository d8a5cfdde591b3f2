/** What a person wishes of one plan for one night; what is not given is left to Granary. */
export interface Wish {
  /** By the office's clock, "18:30". */
  start?: string | null
  driveId?: string | null
  leftOut?: boolean
  /** Whether it runs though it is not due. */
  askedFor?: boolean
}
