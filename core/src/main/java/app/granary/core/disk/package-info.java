/**
 * Disks as they are: identity, geometry, partition tables, ranges of bytes. Tables follow the UEFI Specification 2.x, section 5 (GPT and
 * the MBR it protects). Offsets and lengths are bytes unless a name says sectors; ranges are start plus length, end exclusive. Nothing is
 * null. Start with {@link app.granary.core.disk.PartitionTables}.
 */
package app.granary.core.disk;
