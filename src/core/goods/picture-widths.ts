/** The widths pictures are made in; a request for another gets the next larger. */
export const pictureWidths = [96, 240, 480, 960, 1440] as const;
