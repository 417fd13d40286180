/** What a person can see on a patch (docs/HANDBOOK.md §8). */
export const SYMPTOMS = [
  { id: 'bare-patches', name: 'Bare patches' },
  { id: 'veil', name: 'White veil' },
  { id: 'rubbed-through', name: 'Rubbed through' },
  { id: 'smear', name: 'Smeared or run' },
  { id: 'faint', name: 'Faint' },
  { id: 'rolled-off', name: 'Rolled off with the paper' },
  { id: 'lifting-edge', name: 'Edge peeling or lifting' },
  { id: 'wrinkle', name: 'Wrinkle or crease' },
  { id: 'milky', name: 'Milky medium' },
  { id: 'backwards', name: 'Backwards' },
  { id: 'too-dark', name: 'Too dark, whites gone' },
  { id: 'halo', name: 'Halo round the picture' },
  { id: 'pinholes', name: 'Pinholes' },
  { id: 'stuck-paper', name: 'Paper will not come off' },
  { id: 'tacky', name: 'Tacky' },
  { id: 'base-damaged', name: 'Base coat damaged' },
  { id: 'scorched', name: 'Scorched or melted' },
  { id: 'flooded', name: 'Wax flooded or dented' },
  { id: 'lost-in-use', name: 'Lost in wash or wear' },
] as const;

export type SymptomId = (typeof SYMPTOMS)[number]['id'];
export const SYMPTOM_IDS = SYMPTOMS.map(s => s.id) as [SymptomId, ...SymptomId[]];
