/** A pack's luggage tag. */
export interface Tag {
  monogram: string;
  colour: number;
}
