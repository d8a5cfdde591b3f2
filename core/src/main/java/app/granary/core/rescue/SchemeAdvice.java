package app.granary.core.rescue;

import app.granary.core.inventory.Firmware;
import java.util.OptionalInt;

/**
 * Which scheme a stick or drive should have to start a computer: GPT and FAT32 for UEFI, about 2011 and later; MBR for an older BIOS
 * (common practice, no source).
 *
 * @param scheme   {@code "gpt"} or {@code "mbr"}
 * @param sentence why
 */
public record SchemeAdvice(String scheme, String sentence) {
    private static final int UEFI_SINCE = 2011;

    /** @param year the computer was made; empty when nobody knows */
    public static SchemeAdvice of(Firmware firmware, OptionalInt year) {
        if (firmware == Firmware.UEFI) {
            return new SchemeAdvice("gpt", "Its firmware is UEFI: a GPT with a FAT32 system partition starts it.");
        }
        if (firmware == Firmware.BIOS) {
            return new SchemeAdvice("mbr", "Its firmware is a BIOS: an MBR with an active partition starts it.");
        }
        if (year.isPresent() && year.getAsInt() < UEFI_SINCE) {
            return new SchemeAdvice("mbr", "It was made in " + year.getAsInt() + ", before UEFI was usual (about " + UEFI_SINCE
                + "): an MBR is the safer choice. Look at its firmware, and note it.");
        }
        return new SchemeAdvice("gpt",
            "Its firmware is not known" + (year.isPresent() ? ", and it was made in " + year.getAsInt() : "")
                + ": a GPT with a FAT32 system partition starts most computers made since about "
                + UEFI_SINCE + ". Look at its firmware, and note it.");
    }
}
