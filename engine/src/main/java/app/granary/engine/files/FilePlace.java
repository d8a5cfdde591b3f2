package app.granary.engine.files;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Where a file or folder is on a disk.
 *
 * @param partition its number; 0 for a file system that lies on the disk without a table
 * @param names     from the topmost folder down; empty for that folder
 */
public record FilePlace(int partition, List<String> names) {
    private static final Pattern TYPED = Pattern.compile("([0-9]{1,4}):(/.*)?", Pattern.DOTALL);

    public FilePlace {
        names = List.copyOf(names);
    }

    /**
     * As a person types it: {@code 2:/home/ada/plan.dwg}.
     *
     * @throws app.granary.core.fault.FaultException when it is none
     */
    public static FilePlace parse(String text) throws IOException {
        Matcher typed = TYPED.matcher(text);
        if (!typed.matches()) {
            throw Fault.of(Fault.Kind.BAD_CHOICE, text, "\"" + text + "\" is no place on a disk. Write the partition's number, a colon "
                + "and the path, as 2:/home/ada.").asException();
        }
        List<String> names = new ArrayList<>();
        for (String name : (typed.group(2) == null ? "" : typed.group(2)).split("/")) {
            if (!name.isEmpty()) {
                names.add(name);
            }
        }
        return new FilePlace(Integer.parseInt(typed.group(1)), names);
    }

    /** What lies in it by that name. */
    public FilePlace below(String name) {
        List<String> longer = new ArrayList<>(names);
        longer.add(name);
        return new FilePlace(partition, longer);
    }

    @Override
    public String toString() {
        return partition + ":/" + String.join("/", names);
    }
}
