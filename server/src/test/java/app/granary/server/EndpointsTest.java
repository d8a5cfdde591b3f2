package app.granary.server;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.request;

import app.granary.engine.media.OncePerBuild;
import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.read.ListAppender;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.lang.reflect.Parameter;
import java.lang.reflect.RecordComponent;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;
import java.util.stream.Collectors;
import org.junit.jupiter.api.MethodOrderer;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.boot.test.autoconfigure.web.servlet.AutoConfigureMockMvc;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.http.HttpMethod;
import org.springframework.http.MediaType;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;

/**
 * Every endpoint, asked by nobody, a viewer and a technician, and with whatever can be sent. Who may ask which stands in endpoints.txt: one
 * that is added without a row fails here.
 */
@Tag("large")
@SpringBootTest(properties = {"granary.demo=true", "granary.pace=1000"})
@AutoConfigureMockMvc
@TestMethodOrder(MethodOrderer.OrderAnnotation.class)
class EndpointsTest {
    private static final int REQUESTS = 3000;
    private static final List<String> ROLES = List.of("nobody", "viewer", "technician");
    /** It would end the sign-in the test goes by. */
    private static final String SIGNS_OUT = "POST /api/v1/account/sign-out-everywhere";
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private JdbcTemplate database;
    @Autowired
    @Qualifier("requestMappingHandlerMapping")
    private RequestMappingHandlerMapping mapping;
    private final Random random = new Random(3000);

    @DynamicPropertySource
    static void home(DynamicPropertyRegistry registry) throws Exception {
        Path home = Files.createTempDirectory(Path.of("target"), "endpoints").toAbsolutePath();
        OncePerBuild.office(home.resolve("office"));
        Runtime.getRuntime().addShutdownHook(new Thread(() -> org.springframework.util.FileSystemUtils.deleteRecursively(home.toFile())));
        registry.add("granary.home", () -> home.toString());
    }

    private Map<String, HandlerMethod> endpoints() {
        Map<String, HandlerMethod> out = new TreeMap<>();
        mapping.getHandlerMethods()
            .forEach((info, handler) -> info.getMethodsCondition().getMethods().forEach(method -> info.getPatternValues()
                .forEach(path -> out.put(method + " " + path, handler))));
        out.keySet().removeIf(each -> !each.contains(" /api/"));
        return out;
    }

    /** "open", "viewer" or "technician" by endpoint. */
    private static Map<String, String> rows() throws Exception {
        Map<String, String> out = new TreeMap<>();
        for (String line : Files.readAllLines(Path.of("src/test/resources/endpoints.txt"))) {
            String[] words = line.split(" ");
            out.put(words[1] + " " + words[2], words[0]);
        }
        return out;
    }

    private MockHttpServletResponse ask(String endpoint, String role, String path, String body) throws Exception {
        MockHttpServletRequestBuilder request = request(HttpMethod.valueOf(endpoint.substring(0, endpoint.indexOf(' '))),
            java.net.URI.create(path)).with(csrf().asHeader());
        if (!role.equals("nobody")) {
            request = request.with(user(role.equals("viewer") ? "manager" : "technician").roles(role.toUpperCase(java.util.Locale.ROOT)));
        }
        return http
            .perform(body == null ? request
                : request.contentType(MediaType.APPLICATION_JSON).header("If-Match", random.nextBoolean() ? "\"0\"" : "x").content(body))
            .andReturn().getResponse();
    }

    private static String path(String endpoint, String variable) {
        return endpoint.substring(endpoint.indexOf(' ') + 1).replaceAll("\\{[^}]+}", variable);
    }

    @Test
    @Order(1)
    void everyEndpointIsForWhomItsRowSays() throws Exception {
        Map<String, String> rows = rows();
        assertEquals(new TreeSet<>(rows.keySet()), new TreeSet<>(endpoints().keySet()), "endpoints and their rows");
        for (Map.Entry<String, String> row : rows.entrySet()) {
            for (String role : row.getKey().equals(SIGNS_OUT) ? ROLES.subList(0, 1) : ROLES) {
                boolean may = row.getValue().equals("open") || ROLES.indexOf(role) >= ROLES.indexOf(row.getValue());
                int status = ask(row.getKey(), role, path(row.getKey(), UUID.randomUUID().toString()), "{}").getStatus();
                String what = row.getKey() + " by " + role + ": " + status;
                if (may) {
                    assertTrue(status < 500 && status != 403 && (status != 401 || row.getKey().endsWith("/session")), what);
                } else {
                    assertEquals(role.equals("nobody") ? 401 : 403, status, what);
                }
            }
        }
    }

    private static final List<String> STRINGS = List.of("", " ", "a", "\u0000", "../../etc/passwd", "%61", "x".repeat(70_000), "null", "-1",
        "9999999999999999999", "'; drop table image --", "<b>", "\ud83d\ude00", "\u202e",
        "2026-13-45", "0000-00-00T00:00:00Z", "NaN", "technician", "granary-folder", "cairn", "tripod", "{\"a\":1}");

    private Object junk(int depth) {
        return switch (random.nextInt(depth > 3 ? 7 : 9)) {
            case 0 -> null;
            case 1, 2 -> STRINGS.get(random.nextInt(STRINGS.size()));
            case 3 -> random.nextLong();
            case 4 -> random.nextInt(5) - 2;
            case 5 -> random.nextBoolean();
            case 6 -> random.nextGaussian() * Math.pow(10, random.nextInt(300));
            case 7 -> new ArrayList<>(Arrays.asList(junk(depth + 1), null, junk(depth + 1)));
            default -> new LinkedHashMap<>(Collections.singletonMap("a", junk(depth + 1)));
        };
    }

    /** Of the kind that is expected, or not. */
    private Object value(Class<?> type, int depth) {
        if (random.nextInt(3) == 0) {
            return junk(depth);
        }
        if (type.isRecord()) {
            Map<String, Object> out = new LinkedHashMap<>();
            for (RecordComponent each : type.getRecordComponents()) {
                if (random.nextInt(8) > 0) {
                    out.put(each.getName(), value(each.getType(), depth + 1));
                }
            }
            return out;
        }
        if (type == String.class || type == UUID.class) {
            return random.nextBoolean() ? UUID.randomUUID().toString() : STRINGS.get(random.nextInt(STRINGS.size()));
        }
        if (type == boolean.class || type == Boolean.class) {
            return random.nextBoolean();
        }
        if (type == long.class || type == int.class || Number.class.isAssignableFrom(type)) {
            return List.of(0, -1, 1, Integer.MAX_VALUE, Long.MAX_VALUE, Long.MIN_VALUE).get(random.nextInt(6));
        }
        if (List.class.isAssignableFrom(type)) {
            return new ArrayList<>(Arrays.asList(junk(depth), junk(depth)));
        }
        return junk(depth);
    }

    private String query(HandlerMethod handler) {
        List<String> out = new ArrayList<>();
        for (Parameter each : handler.getMethod().getParameters()) {
            if (each.isAnnotationPresent(RequestParam.class) && random.nextInt(4) > 0) {
                String text = String.valueOf(value(each.getType(), 3));
                out.add(each.getName() + "="
                    + java.net.URLEncoder.encode(text.substring(0, Math.min(2000, text.length())), StandardCharsets.UTF_8));
            }
        }
        return out.isEmpty() ? "" : "?" + String.join("&", out);
    }

    private String body(HandlerMethod handler) throws Exception {
        Class<?> type = Arrays.stream(handler.getMethod().getParameters()).filter(each -> each.isAnnotationPresent(RequestBody.class))
            .map(Parameter::getType).findFirst().orElse(null);
        if (type == null) {
            return null;
        }
        String text = json.writeValueAsString(value(type, 0));
        return random.nextInt(12) == 0 ? text.substring(0, text.length() / 2) : text;
    }

    @Test
    @Order(2)
    void whateverIsSentIsAnsweredWithASentence() throws Exception {
        ListAppender<ILoggingEvent> log = new ListAppender<>();
        log.start();
        Logger root = (Logger) LoggerFactory.getLogger(org.slf4j.Logger.ROOT_LOGGER_NAME);
        root.addAppender(log);
        Map<String, HandlerMethod> endpoints = endpoints();
        endpoints.remove(SIGNS_OUT);
        Map<String, String> rows = rows();
        List<String> names = List.copyOf(endpoints.keySet());
        List<String> wrong = new ArrayList<>();
        Map<Integer, Integer> statuses = new TreeMap<>();
        long before = database.queryForObject("select count(*) from journal_entry where account = 'manager'", Long.class);
        List<String> ids = List.of("tripod", "cairn", "%00", "..%2f..", "%61", UUID.randomUUID().toString(), "1", "%F0%9F%98%80",
            "x".repeat(3000), "2026-11-25", "granary-folder");
        for (int i = 0; i < REQUESTS; i++) {
            String endpoint = names.get(i % names.size());
            HandlerMethod handler = endpoints.get(endpoint);
            String role = ROLES.get(random.nextInt(ROLES.size()));
            String body = body(handler);
            String path = path(endpoint, ids.get(random.nextInt(ids.size()))) + query(handler);
            MockHttpServletResponse answer = ask(endpoint, role, path, body);
            int status = answer.getStatus();
            statuses.merge(status, 1, Integer::sum);
            boolean may = rows.get(endpoint).equals("open") || ROLES.indexOf(role) >= ROLES.indexOf(rows.get(endpoint));
            boolean sentence = status < 400 || answer.getContentAsString(StandardCharsets.UTF_8).contains("\"detail\"")
                || path.contains("%2f") || path.contains("%00");
            if (status >= 500 && status != 503 || !sentence || !may && status < 400) {
                wrong.add(endpoint + " by " + role + ": " + status + " " + cut(path, 200) + " " + (body == null ? "" : cut(body, 300))
                    + " -> "
                    + answer.getContentAsString(StandardCharsets.UTF_8).lines().findFirst().map(line -> cut(line, 200)).orElse(""));
            }
        }
        root.detachAppender(log);
        System.out.println(REQUESTS + " requests were answered " + statuses);
        assertEquals(List.of(), wrong.stream().limit(12).toList(), wrong.size() + " of " + REQUESTS);
        assertEquals(before,
            database.queryForObject("select count(*) from journal_entry where account = 'manager' and action <> 'signed in'", Long.class),
            "written by a viewer");
        assertEquals(List.of(), traces(log), "stack traces in the log");
    }

    private static String cut(String text, int most) {
        return text.substring(0, Math.min(most, text.length()));
    }

    private static List<String> traces(ListAppender<ILoggingEvent> log) {
        return log.list.stream().filter(each -> each.getThrowableProxy() != null)
            .map(each -> each.getFormattedMessage() + ": " + each.getThrowableProxy().getMessage()).limit(10).collect(Collectors.toList());
    }
}
