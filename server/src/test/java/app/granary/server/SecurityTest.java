package app.granary.server;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.endsWith;
import static org.hamcrest.Matchers.is;
import static org.hamcrest.Matchers.not;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.header;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import jakarta.servlet.Filter;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.http.MediaType;
import org.springframework.mock.web.MockHttpServletRequest;
import org.springframework.mock.web.MockHttpServletResponse;
import org.springframework.mock.web.MockHttpSession;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;

class SecurityTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    @Qualifier("springSecurityFilterChain")
    private Filter filters;

    private ResultActions signIn(String name, String password, String address) throws Exception {
        return http.perform(post("/api/v1/session").with(csrf().asHeader()).with(request -> {
            request.setRemoteAddr(address);
            return request;
        }).contentType(MediaType.APPLICATION_JSON).content("{\"name\":\"" + name + "\",\"password\":\"" + password + "\"}"));
    }

    @Test
    void nothingIsToldToStrangers() throws Exception {
        for (String path : new String[] {"/api/v1/computers", "/api/v1/journal", "/api/v1/images", "/api/v1/runs", "/api/v1/openapi",
            "/api/v1/office"}) {
            http.perform(get(path)).andExpect(status().isUnauthorized()).andExpect(jsonPath("$.detail", is("Sign in first.")));
        }
        http.perform(get("/actuator/health")).andExpect(status().isOk());
        http.perform(get("/actuator/env").with(user("technician").roles("TECHNICIAN"))).andExpect(status().isNotFound());
    }

    @Test
    void headersAndCookiesAreStrict() throws Exception {
        http.perform(get("/api/v1/session")).andExpect(status().isOk())
            .andExpect(header().string("Content-Security-Policy", containsString("script-src 'self';")))
            .andExpect(header().string("X-Content-Type-Options", "nosniff")).andExpect(header().string("X-Frame-Options", "DENY"))
            .andExpect(header().string("Referrer-Policy", "no-referrer"))
            .andExpect(jsonPath("$.firstVisit", is(false)));
    }

    /** What is in a script shows in its name, so a browser keeps it; what names it and what is told it does not (RFC 8246). */
    @Test
    void scriptsAreKeptByTheBrowserAndNothingElseIs() throws Exception {
        String page = http.perform(get("/index.html")).andExpect(header().string("Cache-Control", containsString("no-store"))).andReturn()
            .getResponse().getContentAsString();
        int at = page.indexOf("/assets/");
        http.perform(get(page.substring(at, page.indexOf('"', at)))).andExpect(status().isOk())
            .andExpect(header().string("Cache-Control", "max-age=31536000, private, immutable"))
            .andExpect(header().doesNotExist("Pragma")).andExpect(header().doesNotExist("Expires"));
        http.perform(get("/assets/none.js")).andExpect(status().isNotFound());
        http.perform(get("/api/v1/session")).andExpect(header().string("Cache-Control", containsString("no-store")));
    }

    /** An export answers in a thread of its own; the headers were written by both at once, which broke it at times. */
    @Test
    void headersAreThereBeforeAnythingIsAnswered() throws Exception {
        AtomicReference<String> there = new AtomicReference<>();
        MockHttpServletRequest request = new MockHttpServletRequest("GET", "/actuator/health");
        request.setServletPath("/actuator/health");
        filters.doFilter(request, new MockHttpServletResponse(),
            (asked, answer) -> there.set(((HttpServletResponse) answer).getHeader("X-Frame-Options")));
        assertEquals("DENY", there.get());
    }

    @Test
    void changingNeedsATokenAndATechnician() throws Exception {
        String note = "{\"text\":\"hello\"}";
        http.perform(post("/api/v1/journal/notes").with(user("technician").roles("TECHNICIAN")).contentType(MediaType.APPLICATION_JSON)
            .content(note))
            .andExpect(status().isForbidden()).andExpect(jsonPath("$.detail", containsString("This page is out of date")));
        http.perform(post("/api/v1/journal/notes").with(user("manager").roles("VIEWER")).with(csrf().asHeader())
            .contentType(MediaType.APPLICATION_JSON).content(note))
            .andExpect(status().isForbidden())
            .andExpect(jsonPath("$.detail", is("This account may look but not change anything. Ask a technician.")));
        http.perform(post("/api/v1/journal/notes").with(user("technician").roles("TECHNICIAN")).with(csrf().asHeader())
            .contentType(MediaType.APPLICATION_JSON).content("{\"text\":\" \"}"))
            .andExpect(status().isBadRequest()).andExpect(jsonPath("$.field", is("text")));
    }

    @Test
    void signInChangesTheSessionAndLastsUntilSignOut() throws Exception {
        MockHttpSession before = new MockHttpSession();
        String id = before.getId();
        HttpSession after = http
            .perform(post("/api/v1/session").session(before).with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
                .content("{\"name\":\"technician\",\"password\":\"survey-the-tarn\"}"))
            .andExpect(status().isOk()).andExpect(jsonPath("$.role", is("technician")))
            .andReturn().getRequest().getSession();
        org.junit.jupiter.api.Assertions.assertNotEquals(id, after.getId());
        http.perform(get("/api/v1/office").session((MockHttpSession) after)).andExpect(status().isOk());
        http.perform(org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete("/api/v1/session")
            .session((MockHttpSession) after).with(csrf().asHeader()))
            .andExpect(status().isNoContent());
        http.perform(get("/api/v1/office")).andExpect(status().isUnauthorized());
    }

    @Test
    void guessesAreSlowedAndNobodyElseFeelsIt() throws Exception {
        for (int i = 0; i < 5; i++) {
            signIn("manager", "wrong", "10.0.0.9").andExpect(status().isUnauthorized())
                .andExpect(jsonPath("$.type", endsWith("sign-in-failed")));
        }
        // each guess waits twice as long as the one before it; then long enough for a slow machine
        for (String told = ""; !told.matches(".*\"Too many wrong passwords\\. Wait ([4-9]|[1-6][0-9]) s, and try again\\.\".*");) {
            told = signIn("manager", "wrong", "10.0.0.9").andExpect(status().is4xxClientError()).andReturn().getResponse()
                .getContentAsString();
        }
        signIn("Manager", "survey-the-tarn", "10.0.0.9").andExpect(status().isTooManyRequests());
        signIn("manager", "survey-the-tarn", "10.0.0.10").andExpect(status().isOk());
        signIn("technician", "survey-the-tarn", "10.0.0.9").andExpect(status().isOk()).andExpect(jsonPath("$.name", not("")));
    }

    /** A page elsewhere whose name was made to lead here could have made the first account; a form of it could have carried the token. */
    @Test
    void onlyItsOwnPagesAtItsOwnAddressAreAnswered() throws Exception {
        for (String host : new String[] {"evil.example", "127.0.0.1.evil.example:8470", "localhost.evil.example"}) {
            http.perform(get("/api/v1/session").header("Host", host)).andExpect(status().isForbidden())
                .andExpect(jsonPath("$.type", endsWith("other-address")));
        }
        for (String host : new String[] {"127.0.0.1:8470", "LOCALHOST", "[::1]:8470"}) {
            http.perform(get("/api/v1/session").header("Host", host)).andExpect(status().isOk());
        }
        for (String origin : new String[] {"http://evil.example", "null", "http://localhost@evil.example", "::"}) {
            http.perform(post("/api/v1/session").header("Origin", origin).with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
                .content("{}"))
                .andExpect(status().isForbidden()).andExpect(jsonPath("$.type", endsWith("other-page")));
        }
        http.perform(post("/api/v1/journal/notes").with(user("technician").roles("TECHNICIAN")).with(csrf())
            .contentType(MediaType.APPLICATION_JSON).content("{\"text\":\"x\"}"))
            .andExpect(status().isForbidden());
    }

    /** What is sent is never in an answer or in the log, and a mistake in it is nobody else's failure. */
    @Test
    void whatCannotBeReadIsToldAsThat() throws Exception {
        for (String body : new String[] {"{\"name\": \"a\", \"password\": \"hush-hush", "[]", "null",
            "{\"name\": {}, \"password\": \"hush-hush\"}", "\u0000", "{\"name\": 1e400}"}) {
            String said = http
                .perform(post("/api/v1/session").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON).content(body))
                .andExpect(status().isBadRequest()).andReturn().getResponse().getContentAsString();
            org.junit.jupiter.api.Assertions.assertTrue(said.contains("\"detail\"") && !said.contains("hush") && !said.contains("device"),
                said);
        }
        http.perform(get("/api/v1/nowhere").with(user("technician").roles("TECHNICIAN"))).andExpect(status().isNotFound())
            .andExpect(jsonPath("$.detail", containsString("nothing under that address")));
    }

    @Test
    void theFirstVisitIsOver() throws Exception {
        http.perform(post("/api/v1/session/first").with(csrf().asHeader()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"name\":\"mallory\",\"password\":\"a long password\",\"word\":\"guess\"}"))
            .andExpect(status().isBadRequest()).andExpect(jsonPath("$.detail", is("An account exists already. Sign in with it.")));
    }
}
