export { SUMMARY_VERSION, summaryOf, TrialSummary } from './summary.ts';
