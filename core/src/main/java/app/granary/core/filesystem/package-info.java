/**
 * Which blocks of a partition matter. Allocation is three-valued: used, free, unknown; what is unknown is read. A file system that is only
 * recognised, or whose maps cannot be trusted, is read whole and says why. Nothing is null. Start with
 * {@link app.granary.core.filesystem.DiskSurvey}.
 */
package app.granary.core.filesystem;
