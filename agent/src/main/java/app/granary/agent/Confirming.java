package app.granary.agent;

import app.granary.core.agent.Protocol;
import app.granary.core.target.TargetDisk;
import app.granary.engine.line.Message;
import java.util.List;
import java.util.function.Predicate;

/** Whoever stands at the computer types what confirms that a disk of it may be overwritten, key by key. */
final class Confirming {
    private static final String ASKED = "A disk here that may be overwritten by the office's order: type the last four characters of its "
        + "serial number, read off the disk itself, then Enter: ";
    private static final int MOST = 8;
    private static final char ESCAPE = 27;
    private static final char DELETE = 127;

    private final StringBuilder typed = new StringBuilder();
    private String said = ASKED;
    private boolean ended;

    /** Whether there is nothing more to type. */
    boolean ended() {
        return ended;
    }

    /** For the person. */
    String said() {
        return ended ? said : said + typed;
    }

    /**
     * @param targets of this computer
     * @param office  is told; says whether it could be
     */
    void pressed(char key, List<TargetDisk> targets, Predicate<Message.Typed> office) {
        if (key == ESCAPE) {
            end("Nothing was confirmed.");
        } else if (key == '\r' || key == '\n') {
            entered(targets, office);
        } else if (key == DELETE || key == '\b') {
            typed.setLength(Math.max(0, typed.length() - 1));
        } else if (typed.length() < MOST && !Character.isISOControl(key)) {
            typed.append(key);
        }
    }

    private void end(String sentence) {
        said = sentence;
        ended = true;
    }

    private void entered(List<TargetDisk> targets, Predicate<Message.Typed> office) {
        List<TargetDisk> meant = targets.stream().filter(each -> each.confirmation().equalsIgnoreCase(typed.toString().strip())).toList();
        if (meant.isEmpty()) {
            end("No disk here ends in \"" + typed + "\". Nothing was confirmed.");
        } else if (meant.size() > 1) {
            end("Two disks here end in that. Take the other one off, or type it at the office. Nothing was confirmed.");
        } else if (!office.test(new Message.Typed(meant.get(0).id(), meant.get(0).confirmation()))) {
            end("The office cannot be reached now. Nothing was confirmed.");
        } else {
            end(meant.get(0).inFull() + " may be overwritten once, within " + Protocol.TYPED_GOOD_MINUTES
                + " minutes, by who orders it at the office.");
        }
    }
}
