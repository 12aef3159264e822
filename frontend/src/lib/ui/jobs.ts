/** Long work on a stage: when it is under way, and how often it is asked about. */
export type Job = { state: string; lost?: boolean } | null | undefined;

export const underWay = (job: Job): boolean => !!job && ['waiting', 'running'].includes(job.state);

/** How long to wait before asking again [ms]; 0 for work that has ended. One whose worker was lost may begin again by itself. */
export const askAgain = (job: Job): number => (underWay(job) ? 500 : job?.lost ? 3000 : 0);
