export { SUMMARY_VERSION, TrialSummary } from './kept.ts';
export { summaryOf } from './summary.ts';
