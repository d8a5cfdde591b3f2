package app.granary.server.account;

import static org.hamcrest.Matchers.containsString;
import static org.hamcrest.Matchers.hasItem;
import static org.hamcrest.Matchers.is;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.springframework.security.test.web.servlet.request.SecurityMockMvcRequestPostProcessors.csrf;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.get;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.post;
import static org.springframework.test.web.servlet.request.MockMvcRequestBuilders.put;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.jsonPath;
import static org.springframework.test.web.servlet.result.MockMvcResultMatchers.status;

import app.granary.server.ServerTestBase;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.http.MediaType;
import org.springframework.mock.web.MockHttpSession;
import org.springframework.test.web.servlet.MockMvc;
import org.springframework.test.web.servlet.ResultActions;
import org.springframework.test.web.servlet.request.MockHttpServletRequestBuilder;

class AccountsWireTest extends ServerTestBase {
    @Autowired
    private MockMvc http;
    @Autowired
    private ObjectMapper json;
    @Autowired
    private AccountRepository repository;

    private ResultActions send(MockHttpServletRequestBuilder request, MockHttpSession session, Map<String, ?> body) throws Exception {
        return http.perform((session == null ? request : request.session(session)).with(csrf().asHeader())
            .contentType(MediaType.APPLICATION_JSON).content(json.writeValueAsString(body)));
    }

    private MockHttpSession signedIn(String name, String password) throws Exception {
        return (MockHttpSession) send(post("/api/v1/session"), null, Map.of("name", name, "password", password)).andExpect(status().isOk())
            .andReturn().getRequest().getSession();
    }

    private String invite(MockHttpSession by, String name, String role) throws Exception {
        String path = json.readTree(send(post("/api/v1/accounts/invitations"), by, Map.of("name", name, "role", role))
            .andExpect(status().isCreated()).andReturn().getResponse().getContentAsString()).get("path").asText();
        return path.substring(path.indexOf('=') + 1);
    }

    @Test
    void anInvitedPersonMakesAnAccountOnce() throws Exception {
        MockHttpSession technician = signedIn("technician", Accounts.DEMO_PASSWORD);
        String token = invite(technician, "nell", "viewer");
        send(post("/api/v1/accounts/invitations"), technician, Map.of("name", "NELL", "role", "viewer"))
            .andExpect(status().is4xxClientError()).andExpect(jsonPath("$.detail", containsString("already")));
        http.perform(get("/api/v1/session/invitation").param("token", token)).andExpect(jsonPath("$.name", is("nell")));
        send(post("/api/v1/session/invitation"), null, Map.of("token", token, "password", "short")).andExpect(status().is4xxClientError())
            .andExpect(jsonPath("$.detail", containsString("10 to 72")));
        send(post("/api/v1/session/invitation"), null, Map.of("token", token, "password", "words that are long"))
            .andExpect(status().isCreated()).andExpect(jsonPath("$.role", is("viewer")));
        send(post("/api/v1/session/invitation"), null, Map.of("token", token, "password", "words that are long"))
            .andExpect(status().is4xxClientError());
        http.perform(get("/api/v1/session/invitation").param("token", "x")).andExpect(status().isNotFound());
        MockHttpSession viewer = signedIn("nell", "words that are long");
        send(post("/api/v1/accounts/invitations"), viewer, Map.of("name", "eve", "role", "technician")).andExpect(status().isForbidden());
        http.perform(get("/api/v1/accounts").session(technician)).andExpect(jsonPath("$.accounts[*].name", hasItem("nell")));
    }

    @Test
    void aChangedPasswordAndSigningOutEverywhereEndOtherSessions() throws Exception {
        MockHttpSession technician = signedIn("technician", Accounts.DEMO_PASSWORD);
        send(post("/api/v1/session/invitation"), null,
            Map.of("token", invite(technician, "idris", "viewer"), "password", "the first of them")).andExpect(status().isCreated());
        MockHttpSession one = signedIn("idris", "the first of them");
        MockHttpSession other = signedIn("idris", "the first of them");
        send(post("/api/v1/account/password"), one, Map.of("old", "not that one", "password", "the second of them"))
            .andExpect(status().is4xxClientError());
        send(post("/api/v1/account/password"), one, Map.of("old", "the first of them", "password", "the second of them"))
            .andExpect(status().isNoContent());
        http.perform(get("/api/v1/today").session(one)).andExpect(status().isOk());
        http.perform(get("/api/v1/today").session(other)).andExpect(status().isUnauthorized());
        MockHttpSession third = signedIn("idris", "the second of them");
        send(post("/api/v1/account/sign-out-everywhere"), one, Map.of()).andExpect(status().isNoContent());
        http.perform(get("/api/v1/today").session(third)).andExpect(status().isUnauthorized());
    }

    /** What a session said at its beginning counted until its end. */
    @Test
    void whatAnAccountMayDoIsAskedAtEachRequest() throws Exception {
        MockHttpSession technician = signedIn("technician", Accounts.DEMO_PASSWORD);
        send(post("/api/v1/session/invitation"), null,
            Map.of("token", invite(technician, "wren", "technician"), "password", "plain enough words")).andExpect(status().isCreated());
        MockHttpSession wren = signedIn("wren", "plain enough words");
        send(post("/api/v1/journal/notes"), wren, Map.of("text", "while a technician")).andExpect(status().isNoContent());
        repository.findById("wren").ifPresent(account -> {
            account.become(Role.VIEWER);
            repository.save(account);
        });
        send(post("/api/v1/journal/notes"), wren, Map.of("text", "no more")).andExpect(status().isForbidden());
        http.perform(get("/api/v1/today").session(wren)).andExpect(status().isOk());
        wren.setAttribute(StillSignedIn.SINCE, java.time.Instant.now().minus(java.time.Duration.ofHours(25)));
        http.perform(get("/api/v1/today").session(wren)).andExpect(status().isUnauthorized());
    }

    @Test
    void namesThatLookAlikeAndPasswordsThatAreTriedFirstAreRefused() throws Exception {
        MockHttpSession technician = signedIn("technician", Accounts.DEMO_PASSWORD);
        send(post("/api/v1/accounts/invitations"), technician, Map.of("name", "tеchnician", "role", "viewer"))
            .andExpect(status().is4xxClientError())
            .andExpect(jsonPath("$.detail", containsString("looks like it")));
        String token = invite(technician, "petra", "viewer");
        send(post("/api/v1/session/invitation"), null, Map.of("token", token, "password", "qwertyuiop"))
            .andExpect(status().is4xxClientError()).andExpect(jsonPath("$.detail", containsString("tried first")));
        MockHttpSession manager = signedIn("manager", Accounts.DEMO_PASSWORD);
        List<Integer> answers = new ArrayList<>();
        // each guess waits twice as long as the one before it, so that soon one comes too early, however slow this machine is
        for (int i = 0; i < SignInAttempts.FREE + 8 && !answers.contains(429); i++) {
            answers.add(send(post("/api/v1/account/password"), manager, Map.of("old", "guess " + i, "password", "a new plain password"))
                .andReturn().getResponse().getStatus());
        }
        assertEquals(Collections.nCopies(SignInAttempts.FREE, 400), answers.subList(0, SignInAttempts.FREE));
        assertTrue(answers.contains(429), answers.toString());
    }

    @Test
    void aClosedAccountIsOutAndTheLastTechnicianStays() throws Exception {
        MockHttpSession technician = signedIn("technician", Accounts.DEMO_PASSWORD);
        send(post("/api/v1/session/invitation"), null,
            Map.of("token", invite(technician, "bram", "viewer"), "password", "plain enough words")).andExpect(status().isCreated());
        MockHttpSession bram = signedIn("bram", "plain enough words");
        send(put("/api/v1/accounts/bram"), technician, Map.of("role", "viewer", "closed", true)).andExpect(status().isOk());
        // a path that is written otherwise is the same path
        for (String path : new String[] {"/api/v1/today", "/%61pi/v1/today", "/api/v1/%74oday", "/%61%70%69/v1/journal",
            "/api/v1/runs/events"}) {
            http.perform(get(java.net.URI.create(path)).session(bram)).andExpect(status().isUnauthorized());
        }
        send(post("/api/v1/session"), null, Map.of("name", "bram", "password", "plain enough words")).andExpect(status().isUnauthorized());
        send(put("/api/v1/accounts/technician"), technician, Map.of("role", "viewer", "closed", false))
            .andExpect(status().is4xxClientError()).andExpect(jsonPath("$.detail", containsString("only technician")));
        send(put("/api/v1/accounts/bram"), technician, Map.of("role", "king", "closed", false)).andExpect(status().isBadRequest());
    }
}
