package app.granary.server.capture;

import app.granary.core.plan.FolderPattern;
import app.granary.engine.host.Storage;
import app.granary.server.estimate.StorageChoice;
import java.io.IOException;
import java.util.List;

/**
 * How a disk is captured.
 *
 * @param codec      empty when an unfinished capture is carried on, whose own is kept with it
 * @param level      of the codec
 * @param splitBytes null for a single part
 * @param carryOn    whether an unfinished capture is carried on
 * @param naming     the naming pattern of a plan's capture, whose name is made when it starts; empty when it has its name
 * @param afterwards what becomes of the computer when it is done; empty for nothing
 * @param comment    a person's words, which go into the image; null or empty for none
 * @param folder     where on its drive it lies in the end, a {@link FolderPattern}; null or empty for the office's choice
 * @param mailTo     who is told how it ended, when it is of no night; null or empty for nobody
 */
record CaptureOrder(String codec, int level, Long splitBytes, boolean allBlocks, boolean keepSwap, List<Integer> without, boolean carryOn,
    String naming, String afterwards, String comment, String folder, List<String> mailTo) {
    static CaptureOrder of(Storage s, String naming, Captures.Then then) {
        return new CaptureOrder(s.codec().word(), s.level(), s.splitBytes().isPresent() ? s.splitBytes().getAsLong() : null,
            s.choice().allBlocks(), s.choice().keepSwap(),
            s.choice().without().stream().sorted().toList(), false, naming, then.computer().word(), s.comment(), then.folder().text(),
            then.mailTo());
    }

    /**
     * How it is stored is kept with the unfinished capture. What becomes of the computer was chosen for another hour and is not: whoever
     * carries on chooses it anew.
     *
     * @param folder of the run that did not end
     * @param mailTo as that run had it
     */
    static CaptureOrder carryingOn(String folder, List<String> mailTo) {
        return new CaptureOrder("", 0, null, false, false, List.of(), true, "", "", "", folder, mailTo);
    }

    List<String> told() {
        return mailTo == null ? List.of() : mailTo;
    }

    FolderPattern folders() throws IOException {
        return folder == null ? FolderPattern.NONE : FolderPattern.parse(folder);
    }

    Storage storage() throws IOException {
        return StorageChoice.of(codec, level, splitBytes, allBlocks, keepSwap, without).commented(comment == null ? "" : comment);
    }
}
