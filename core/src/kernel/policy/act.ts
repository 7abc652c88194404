/** Something that can be permitted beside working with records; each feature says which it has. */
export interface ActType {
  /** What somebody may do: begins with a verb. */
  readonly label: string;
  /** Whether it is part of setting Zawn up, and not of the everyday work. */
  readonly isSetup?: true;
}
