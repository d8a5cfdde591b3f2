package app.granary.core.card;

import app.granary.core.destination.PlaceKind;
import app.granary.core.disk.DiskIdentity;
import app.granary.core.inventory.ComputerFacts;
import app.granary.core.restore.RestoreTime;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;

/**
 * What is known of a computer on the day its card is written.
 *
 * @param bootMinutes  how long booting one computer takes a person
 * @param filesSavedOn when its files were last saved by other means; empty when nobody noted it
 * @param sticks       rescue media known to boot it, tested, with where they lie; usually one
 * @param disks        in order of place
 */
public record CardFacts(String computer, String role, String owner, ComputerFacts facts, int bootMinutes, Optional<LocalDate> filesSavedOn,
    List<String> sticks, List<OfDisk> disks) {

    /**
     * @param copies   of its images, newest first; damaged ones are none, and those on the disk itself
     * @param rollBack the newest that lies on the disk itself; usually empty
     * @param spares bootable copies of it, newest first; usually empty
     */
    public record OfDisk(String name, DiskIdentity identity, List<Copy> copies, Optional<Copy> rollBack, List<Spare> spares) {
    }

    /**
     * A disk that can be put in its place.
     *
     * @param name   with its serial
     * @param madeAt the moment it is a copy of
     * @param booted whether a person started the computer from it
     * @param place  where it lies; an empty string when nobody said
     * @param flaw   what of the disk it does not hold, as a clause; an empty string when it holds all of it
     */
    public record Spare(String name, Instant madeAt, boolean booted, String place, String flaw) {
    }

    /**
     * One copy of an image.
     *
     * @param proven how far, as a word; an empty string when nothing of it is
     * @param partly what of the disk is not in it, in words; an empty string for an image of the whole disk
     * @param bytes  read from its destination, and written back
     * @param rates  from its destination and onto such a disk, by the clock
     */
    public record Copy(String image, Instant madeAt, boolean sound, String proven, String partly, String destination, PlaceKind kind,
        String place, boolean attached, boolean encrypted, RestoreTime.Bytes bytes,
        RestoreTime.Rates rates) {
    }
}
