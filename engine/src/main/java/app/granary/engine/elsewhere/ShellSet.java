package app.granary.engine.elsewhere;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionTable;
import app.granary.core.image.DiskInside;
import app.granary.core.measure.Sizes;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.UUID;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * One disk as people image it in a shell: its table in a file of its own, perhaps its first sectors in another, and its partitions one by
 * one, packed or not, in parts or not. A partition's file ends its name with the partition's number, before its endings.
 *
 * @param table  the file that tells the table
 * @param inside what it tells
 * @param starts files with the disk's first sectors, or that may have them
 * @param parts  files of each partition, by its number
 */
record ShellSet(String table, DiskInside inside, List<PartSets.Set> starts, Map<Integer, PartSets.Set> parts) {
    /** The first sectors of a disk, with its boot code; a disk's first partition usually begins behind so many bytes. */
    private static final long LONGEST_START = 32L << 20;
    private static final Pattern NUMBER = Pattern.compile("[^.]*?(\\d{1,3})(?:\\..*)?");

    /** The set that lies in a folder; empty where no table lies there, or no partition of it. */
    static Optional<ShellSet> in(Path folder, List<PartSets.Set> sets) throws IOException {
        Optional<ShellSet> table = Optional.empty();
        for (PartSets.Set each : sets) {
            Optional<ShellSet> told = each.files().size() == 1 ? table(folder, each.name()) : Optional.empty();
            if (told.isPresent() && (table.isEmpty() || tells(told.get()) > tells(table.get()))) {
                table = told;
            }
        }
        if (table.isEmpty()) {
            return Optional.empty();
        }
        ShellSet of = table.get();
        for (PartSets.Set each : sets) {
            Optional<Integer> number = each.name().equals(of.table) ? Optional.empty() : of.number(each.name());
            if (number.isPresent() && isPart(folder, each)) {
                of.parts.putIfAbsent(number.get(), each);
            } else if (number.isEmpty() && each.files().size() == 1 && of.starts.isEmpty() && isStart(folder.resolve(each.name()))) {
                of.starts.add(each);
            }
        }
        return of.parts.isEmpty() ? Optional.empty() : table;
    }

    /** Of several forms of a table the one that tells more of it. */
    private static int tells(ShellSet set) {
        return (set.inside.tableId().isEmpty() ? 0 : 2) + (set.inside.partitions().stream().anyMatch(each -> !each.uuid().isEmpty()) ? 1
            : 0);
    }

    private static Optional<ShellSet> table(Path folder, String name) throws IOException {
        Path file = folder.resolve(name);
        long bytes = Files.size(file);
        Optional<DiskInside> inside = bytes <= TableDump.MOST_BYTES && bytes > 0 ? TableDump.of(name, Files.readAllBytes(file))
            : Optional.empty();
        if (inside.isEmpty() && bytes >= 512 && bytes <= LONGEST_START) {
            inside = ElsewhereScan.inside(folder, List.of(new ElsewhereFile(name, bytes, "", "")), Packing.NONE)
                .filter(told -> !told.partitions().isEmpty() && told.endBytes() > bytes);
        }
        return inside.map(told -> new ShellSet(name, told, new ArrayList<>(), new TreeMap<>()));
    }

    /** Regroups what was taken on, by the names of its files. */
    static ShellSet of(ElsewhereImage image) {
        ShellSet out = new ShellSet(image.name(), image.inside(), new ArrayList<>(), new TreeMap<>());
        for (PartSets.Set each : PartSets.of(image.files().stream().map(ElsewhereFile::name).toList())) {
            Optional<Integer> number = each.name().equals(image.name()) ? Optional.empty() : out.number(each.name());
            if (number.isPresent()) {
                out.parts.putIfAbsent(number.get(), each);
            } else {
                out.starts.add(each); // which of them begin a disk is told by their bytes
            }
        }
        return out;
    }

    private Optional<Integer> number(String name) {
        Matcher number = NUMBER.matcher(name);
        return number.matches() ? Optional.of(Integer.parseInt(number.group(1))).filter(found -> partition(found).isPresent())
            : Optional.empty();
    }

    Optional<Partition> partition(int number) {
        return inside.partitions().stream().filter(each -> each.number() == number && !each.container()).findFirst();
    }

    private static boolean isPart(Path folder, PartSets.Set set) throws IOException {
        long bytes = 0;
        for (String each : set.files()) {
            bytes += Files.size(folder.resolve(each));
        }
        return bytes > 512;
    }

    /** A sector that firmware would start, and little more. */
    static boolean isStart(Path file) throws IOException {
        long bytes = Files.isRegularFile(file) ? Files.size(file) : 0;
        if (bytes < 512 || bytes > LONGEST_START) {
            return false;
        }
        byte[] first = new byte[512];
        try (var in = Files.newInputStream(file)) {
            in.readNBytes(first, 0, first.length);
        }
        return (first[510] & 0xFF) == 0x55 && (first[511] & 0xFF) == 0xAA;
    }

    /** All files, the table first. */
    List<String> files() {
        List<String> out = new ArrayList<>(List.of(table));
        starts.forEach(each -> out.addAll(each.files()));
        parts.values().forEach(each -> out.addAll(each.files()));
        return out.stream().distinct().toList();
    }

    /** Partitions of the table that no file of the set holds. */
    List<Partition> lacking() {
        return inside.partitions().stream().filter(each -> !each.container() && !parts.containsKey(each.number())).toList();
    }

    /** Why it is not one disk, as a sentence; an empty string when it is. */
    String trouble(Path folder) throws IOException {
        for (Map.Entry<Integer, PartSets.Set> each : parts.entrySet()) {
            if (!each.getValue().gap().isEmpty()) {
                return "A part is missing after " + each.getValue().gap() + ". Put it back into the folder and look again.";
            }
            List<ElsewhereFile> files = sized(folder, each.getValue());
            long bytes = files.stream().mapToLong(ElsewhereFile::bytes).sum();
            long wanted = partition(each.getKey()).orElseThrow().sizeBytes();
            Packing packing = Packing.of(JoinedFiles.firstBytes(folder, files, Packing.HEAD_BYTES));
            if (packing == Packing.NONE && bytes != wanted) {
                return each.getValue().name() + " holds " + Sizes.decimal(bytes) + ", and by " + table + " partition " + each.getKey()
                    + " has " + Sizes.decimal(wanted) + ": the table is of another disk, or the file was cut short. Put the right ones "
                    + "together in a folder of their own.";
            }
        }
        for (PartSets.Set each : starts) {
            long bytes = Files.size(folder.resolve(each.name()));
            Optional<DiskInside> told = ElsewhereScan.inside(folder, List.of(new ElsewhereFile(each.name(), bytes, "", "")), Packing.NONE);
            if (inside.scheme().equals("mbr") && told.isPresent() && !told.get().tableId().isEmpty() && !inside.tableId().isEmpty()
                && !told.get().tableId().equals(inside.tableId())) {
                return each.name() + " and " + table + " are of different disks: their tables have the identities " + told.get().tableId()
                    + " and " + inside.tableId() + ". Put the right ones together in a folder of their own.";
            }
        }
        return "";
    }

    static List<ElsewhereFile> sized(Path folder, PartSets.Set set) throws IOException {
        List<ElsewhereFile> out = new ArrayList<>();
        for (String name : set.files()) {
            out.add(new ElsewhereFile(name, Files.size(folder.resolve(name)), "", ""));
        }
        return out;
    }

    /** A listing tells no GUIDs, and a table must have some: the same ones each time. */
    private String own(String guid, int number) {
        return guid.isEmpty() ? UUID.nameUUIDFromBytes((inside.tableId() + table + number).getBytes(StandardCharsets.UTF_8)).toString()
            .toUpperCase(Locale.ROOT) : guid;
    }

    /** The table as a restore writes it. */
    PartitionTable written(long diskBytes, int sectorBytes) {
        if (inside.scheme().equals("gpt")) {
            long sectors = diskBytes / sectorBytes;
            long entries = 128L * 128 / sectorBytes;
            return new PartitionTable.Gpt(own(inside.tableId(), 0), 2 + entries, sectors - 2 - entries, 128, inside.partitions().stream()
                .map(each -> new Partition(each.number(), each.startBytes(), each.sizeBytes(), each.type(), each.name(),
                    own(each.uuid(), each.number()), each.attributes(), false))
                .toList(), List.of());
        }
        return new PartitionTable.Mbr(inside.tableId().isEmpty() ? 0 : Long.parseLong(inside.tableId(), 16), inside.partitions());
    }
}
