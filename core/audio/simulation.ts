/** How a file says that nobody played what is on it. */
export const SIMULATION = 'Simulation, nobody played';
