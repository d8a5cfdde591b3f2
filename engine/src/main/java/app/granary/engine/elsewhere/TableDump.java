package app.granary.engine.elsewhere;

import app.granary.core.disk.Partition;
import app.granary.core.disk.PartitionType;
import app.granary.core.image.DiskInside;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A partition table that somebody wrote into a file: a script or JSON of {@code sfdisk}, a backup of {@code sgdisk}, the listing of
 * {@code fdisk -l} or of {@code parted} in sectors or bytes (their manual pages; read from what they print). Nothing in it is trusted.
 */
final class TableDump {
    /** A table of 128 partitions takes less, in any of these forms. */
    static final int MOST_BYTES = 64 << 10;
    private static final int BACKUP_ENTRIES = 1536;
    private static final int BACKUP_BOTH_HEADERS = 1024;
    private static final int MOST_PARTITIONS = 128;
    private static final int MOST_LINES = 2000;
    /** None of these forms has a longer one, and a pattern takes its time over what is made to hold it up. */
    private static final int LONGEST_LINE = 400;
    private static final long MOST_SECTORS = 1L << 53;
    private static final String LINUX = "0FC63DAF-8483-4772-8E79-3D69D8477DE4";
    private static final String BASIC = "EBD0A0A2-B9E5-4433-87C0-68B6B72699C7";
    private static final String FIRMWARE = "C12A7328-F81F-11D2-BA4B-00A0C93EC93B";

    private static final Pattern SCRIPT = Pattern.compile("\\S*?(\\d{1,3})\\s*:\\s*(start=.*)");
    private static final Pattern FIELD = Pattern.compile("(start|size|type|Id|uuid|name)=\\s*(?:\"([^\"]*)\"|([^,\\s]+))");
    private static final Pattern HEAD = Pattern.compile("(label|label-id|sector-size):\\s*(\\S+)");
    private static final Pattern FDISK = Pattern
        .compile("(/\\S*?|\\S+?)(\\d{1,3})\\s+(\\*?)\\s*(\\d{1,16})\\s+(\\d{1,16})\\s+(\\d{1,16})\\s+[\\d.,]+[KMGTP]?\\s+(.*)");
    private static final Pattern FDISK_DISK = Pattern.compile("Disk \\S+: .*?(\\d{1,18}) bytes.*");
    private static final Pattern PARTED = Pattern
        .compile("\\s*(\\d{1,3})\\s+(\\d{1,16})(s|B)\\s+(\\d{1,16})(?:s|B)\\s+(\\d{1,16})(?:s|B)\\b(.*)");
    private static final Pattern PARTED_DISK = Pattern.compile("Disk \\S+: (\\d{1,18})(s|B)");
    private static final Pattern SECTOR = Pattern.compile("(?:Units:.*= |Sector size \\(logical/physical\\): )(\\d{3,5}) ?(?:bytes|B).*");
    private static final Pattern SCHEME = Pattern.compile("(?:Disklabel type|Partition Table): (\\S+)");
    private static final Pattern IDENTIFIER = Pattern.compile("Disk identifier: (\\S+)");

    private String scheme = "";
    private String id = "";
    private long sector = 512;
    private OptionalLong diskBytes = OptionalLong.empty();
    private final List<Partition> partitions = new ArrayList<>();

    private TableDump() {
    }

    /** @return what it says of its disk; empty where the bytes are no table in any of these forms */
    static Optional<DiskInside> of(String name, byte[] content) {
        try {
            if (content.length > BACKUP_ENTRIES && new String(content, 512, 8, StandardCharsets.US_ASCII).equals("EFI PART")
                && new String(content, BACKUP_BOTH_HEADERS, 8, StandardCharsets.US_ASCII).equals("EFI PART")) {
                byte[] start = Arrays.copyOf(content, BACKUP_BOTH_HEADERS + content.length - BACKUP_ENTRIES);
                System.arraycopy(content, BACKUP_ENTRIES, start, BACKUP_BOTH_HEADERS, content.length - BACKUP_ENTRIES);
                return DiskStart.look(name, start, OptionalLong.empty()).filter(inside -> !inside.partitions().isEmpty());
            }
            TableDump dump = new TableDump();
            String text = new String(content, StandardCharsets.UTF_8);
            if (text.stripLeading().startsWith("{")) {
                dump.json(text);
            } else {
                text.lines().filter(line -> line.length() <= LONGEST_LINE).limit(MOST_LINES).forEach(dump::line);
            }
            return dump.told();
        } catch (IOException | RuntimeException none) {
            return Optional.empty(); // one file that is something else must not hide the others
        }
    }

    private void json(String text) throws IOException {
        JsonNode table = new ObjectMapper().readTree(text).path("partitiontable");
        scheme = table.path("label").asText();
        id = table.path("id").asText();
        sector = table.path("sectorsize").asLong(512);
        for (JsonNode each : table.path("partitions")) {
            Matcher number = Pattern.compile("(\\d{1,3})$").matcher(each.path("node").asText());
            if (number.find()) {
                add(number.group(1), each.path("start").asLong(), each.path("size").asLong(), each.path("type").asText(),
                    each.path("name").asText(), each.path("uuid").asText(), each.path("bootable").asBoolean());
            }
        }
    }

    private void line(String line) {
        Matcher script = SCRIPT.matcher(line);
        Matcher head = HEAD.matcher(line.strip());
        if (script.matches()) {
            script(script.group(1), script.group(2));
        } else if (head.matches()) {
            switch (head.group(1)) {
                case "label" -> scheme = head.group(2);
                case "label-id" -> id = head.group(2);
                default -> sector = Long.parseLong(head.group(2));
            }
        } else {
            listing(line);
        }
    }

    private void script(String number, String fields) {
        String[] told = {"0", "0", "", "", ""};
        Matcher field = FIELD.matcher(fields);
        while (field.find()) {
            int at = List.of("start", "size", "type", "uuid", "name").indexOf(field.group(1).replace("Id", "type"));
            told[at] = field.group(2) == null ? field.group(3) : field.group(2);
        }
        add(number, Long.parseLong(told[0]), Long.parseLong(told[1]), told[2], told[4], told[3], fields.contains("bootable"));
    }

    private void listing(String line) {
        Matcher disk = FDISK_DISK.matcher(line);
        Matcher partedDisk = PARTED_DISK.matcher(line.strip());
        Matcher size = SECTOR.matcher(line.strip());
        Matcher label = SCHEME.matcher(line.strip());
        Matcher identifier = IDENTIFIER.matcher(line.strip());
        Matcher row = FDISK.matcher(line.strip());
        Matcher parted = PARTED.matcher(line);
        if (disk.matches()) {
            diskBytes = OptionalLong.of(Long.parseLong(disk.group(1)));
        } else if (partedDisk.matches()) {
            diskBytes = OptionalLong.of(Long.parseLong(partedDisk.group(1)) * (partedDisk.group(2).equals("s") ? sector : 1));
        } else if (size.matches()) {
            sector = Long.parseLong(size.group(1));
        } else if (label.matches()) {
            scheme = label.group(1);
        } else if (identifier.matches()) {
            id = identifier.group(1);
        } else if (parted.matches()) {
            long unit = parted.group(3).equals("s") ? 1 : sector;
            add(parted.group(1), Long.parseLong(parted.group(2)) / unit, Long.parseLong(parted.group(5)) / unit,
                parted.group(6).contains("extended") ? "05" : type(parted.group(6)), "", "", parted.group(6).contains("boot"));
        } else if (row.matches()) {
            boolean mbr = !scheme.equals("gpt");
            add(row.group(2), Long.parseLong(row.group(4)), Long.parseLong(row.group(6)),
                mbr ? row.group(7).split("\\s")[0] : type(row.group(7)), "", "", !row.group(3).isEmpty());
        }
    }

    /** A listing gives words where the table has a code: the one for plain data where the words tell nothing else. */
    private String type(String words) {
        String low = words.toLowerCase(Locale.ROOT);
        boolean linux = low.contains("linux") || low.contains("ext");
        if (scheme.equals("gpt")) {
            return low.contains("efi") || low.contains("esp") ? FIRMWARE : linux ? LINUX : BASIC;
        }
        return linux ? "83" : low.contains("fat32") ? "0c" : "07";
    }

    private void add(String number, long start, long sectors, String type, String name, String uuid, boolean bootable) {
        if (start <= 0 || sectors <= 0 || start > MOST_SECTORS || sectors > MOST_SECTORS) {
            throw new IllegalArgumentException("no place of a partition");
        }
        boolean gpt = scheme.equals("gpt");
        String code = gpt ? type : String.format(Locale.ROOT, "%02X", Integer.parseInt(type.isEmpty() ? "83" : type, 16) & 0xFF);
        boolean container = !gpt && List.of("05", "0F", "85").contains(code);
        partitions.add(new Partition(Integer.parseInt(number), start * sector, sectors * sector, PartitionType.of(code), name,
            uuid.toUpperCase(Locale.ROOT), !gpt && bootable ? 0x80 : 0, container));
    }

    private Optional<DiskInside> told() {
        boolean gpt = scheme.equals("gpt");
        boolean known = gpt || scheme.equals("dos") || scheme.equals("msdos");
        if (!known || partitions.isEmpty() || partitions.size() > MOST_PARTITIONS || sector != 512 && sector != 4096) {
            return Optional.empty();
        }
        partitions.sort(Comparator.comparingInt(Partition::number));
        for (int i = 1; i < partitions.size(); i++) {
            if (partitions.get(i).number() == partitions.get(i - 1).number()) {
                return Optional.empty();
            }
        }
        String own = gpt ? id.toUpperCase(Locale.ROOT) : id.matches("0x[0-9a-fA-F]{1,8}") ? String.format(Locale.ROOT, "%08X",
            Long.parseLong(id.substring(2), 16)) : "";
        return Optional.of(new DiskInside(diskBytes, gpt ? "gpt" : "mbr", own, partitions, "", ""));
    }
}
