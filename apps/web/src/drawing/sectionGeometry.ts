/** Height of the bore's axis in the full form of the section drawing, px. */
export const axis = 112;
/** Half of the clearance gauge: what is needed, px. */
export const gauge = 12.5;
