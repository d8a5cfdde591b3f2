package app.granary.server;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.endsWith;
import static org.hamcrest.Matchers.is;
import static org.hamcrest.Matchers.not;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.user;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.header;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import jakarta.servlet.http.HttpSession;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.mock.web.MockHttpSession;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;

class SecurityTest extends ServerTestBase {
    @Autowired
    private MockMvc http;

    private ResultActions signIn(String name, String password, String address) throws Exception {
        return http.perform(post("/api/v1/session").with(csrf()).with(request -> {
            request.setRemoteAddr(address);
            return request;
        }).contentType(MediaType.APPLICATION_JSON).content("{\"name\":\"" + name + "\",\"password\":\"" + password + "\"}"));
    }

    @Test
    void nothingIsToldToStrangers() throws Exception {
        for (String path : new String[] {"/api/v1/computers", "/api/v1/journal", "/api/v1/images", "/api/v1/runs", "/api/v1/openapi", "/api/v1/office"}) {
            http.perform(get(path)).andExpect(status().isUnauthorized()).andExpect(jsonPath("$.detail", is("Sign in first.")));
        }
        http.perform(get("/actuator/health")).andExpect(status().isOk());
        http.perform(get("/actuator/env").with(user("t").roles("TECHNICIAN"))).andExpect(status().isNotFound());
    }

    @Test
    void headersAndCookiesAreStrict() throws Exception {
        http.perform(get("/api/v1/session")).andExpect(status().isOk())
            .andExpect(header().string("Content-Security-Policy", containsString("script-src 'self';")))
            .andExpect(header().string("X-Content-Type-Options", "nosniff")).andExpect(header().string("X-Frame-Options", "DENY"))
            .andExpect(header().string("Referrer-Policy", "no-referrer"))
            .andExpect(jsonPath("$.firstVisit", is(false)));
    }

    @Test
    void changingNeedsATokenAndATechnician() throws Exception {
        String note = "{\"text\":\"hello\"}";
        http.perform(post("/api/v1/journal/notes").with(user("t").roles("TECHNICIAN")).contentType(MediaType.APPLICATION_JSON).content(note))
            .andExpect(status().isForbidden()).andExpect(jsonPath("$.detail", containsString("This page is out of date")));
        http.perform(post("/api/v1/journal/notes").with(user("v").roles("VIEWER")).with(csrf()).contentType(MediaType.APPLICATION_JSON).content(note))
            .andExpect(status().isForbidden()).andExpect(jsonPath("$.detail", is("This account may look but not change anything. Ask a technician.")));
        http.perform(post("/api/v1/journal/notes").with(user("t").roles("TECHNICIAN")).with(csrf()).contentType(MediaType.APPLICATION_JSON).content("{\"text\":\" \"}"))
            .andExpect(status().isBadRequest()).andExpect(jsonPath("$.field", is("text")));
    }

    @Test
    void signInChangesTheSessionAndLastsUntilSignOut() throws Exception {
        MockHttpSession before = new MockHttpSession();
        String id = before.getId();
        HttpSession after = http.perform(post("/api/v1/session").session(before).with(csrf()).contentType(MediaType.APPLICATION_JSON)
            .content("{\"name\":\"technician\",\"password\":\"survey-the-tarn\"}")).andExpect(status().isOk()).andExpect(jsonPath("$.role", is("technician")))
            .andReturn().getRequest().getSession();
        org.junit.jupiter.api.Assertions.assertNotEquals(id, after.getId());
        http.perform(get("/api/v1/office").session((MockHttpSession) after)).andExpect(status().isOk());
        http.perform(org.springframework.test.web.servlet.request.MockMvcRequestBuilders.delete("/api/v1/session").session((MockHttpSession) after).with(csrf()))
            .andExpect(status().isNoContent());
        http.perform(get("/api/v1/office")).andExpect(status().isUnauthorized());
    }

    @Test
    void afterFiveFailuresNoMoreAreTakenNotEvenTheRightOne() throws Exception {
        for (int i = 0; i < 5; i++) {
            signIn("manager", "wrong", "10.0.0.9").andExpect(status().isUnauthorized()).andExpect(jsonPath("$.type", endsWith("sign-in-failed")));
        }
        signIn("manager", "survey-the-tarn", "10.0.0.10").andExpect(status().isTooManyRequests())
            .andExpect(jsonPath("$.detail", is("Too many failed sign-ins. Wait five minutes and try again.")));
        signIn("technician", "survey-the-tarn", "10.0.0.9").andExpect(status().isTooManyRequests());
        signIn("technician", "survey-the-tarn", "10.0.0.11").andExpect(status().isOk()).andExpect(jsonPath("$.name", not("")));
    }

    @Test
    void theFirstVisitIsOver() throws Exception {
        http.perform(post("/api/v1/session/first").with(csrf()).contentType(MediaType.APPLICATION_JSON).content("{\"name\":\"mallory\",\"password\":\"a long password\"}"))
            .andExpect(status().isBadRequest()).andExpect(jsonPath("$.detail", is("An account exists already. Sign in with it.")));
    }
}
