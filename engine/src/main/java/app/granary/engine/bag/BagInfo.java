package app.granary.engine.bag;

import app.granary.core.measure.Sizes;

/**
 * {@code bag-info.txt} (RFC 8493, section 2.2.2).
 *
 * @param text the file's content, lines ended by a line feed
 */
record BagInfo(String text) {

    static BagInfo of(ImageDescription d, String comment, long octets, int files) {
        return new BagInfo("Bagging-Date: " + d.madeAt().substring(0, 10) + "\n"
            + "Bag-Software-Agent: Granary\n"
            + "Bag-Size: " + Sizes.decimal(octets) + "\n"
            + "External-Identifier: " + d.name() + "\n"
            + "External-Description: disk image, " + oneLine(d.disk().model()) + " " + oneLine(d.disk().serial()) + ", "
            + d.disk().sizeBytes() + " bytes\n"
            + (oneLine(comment).isEmpty() ? "" : "Internal-Sender-Description: " + oneLine(comment) + "\n")
            + payloadOxum(octets, files) + "\n");
    }

    static String payloadOxum(long octets, int files) {
        return "Payload-Oxum: " + octets + "." + files;
    }

    private static String oneLine(String text) {
        return text.replaceAll("\\p{Cntrl}", " ").strip();
    }
}
