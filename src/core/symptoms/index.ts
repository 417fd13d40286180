export { SYMPTOM_IDS, SYMPTOMS, type SymptomId } from './symptoms.ts';
