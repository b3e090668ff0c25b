using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using OtpNet;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.SignIn;

/// <summary>What people do with their own accounts, and how the first one comes to be. Two servers on one database.</summary>
public sealed class OwnAccountTests : IAsyncLifetime
{
    private const string Password = Kingcup.Demo.DemoLoader.Password;
    private const string Owner = "owner@harrowmere.test";
    private TestDatabase _database = null!;
    private ServerProcess _first = null!, _second = null!;

    public async ValueTask InitializeAsync() => await BeginAsync(accounts: true);

    public async ValueTask DisposeAsync()
    {
        await _first.DisposeAsync();
        await _second.DisposeAsync();
        await _database.DisposeAsync();
    }

    private async Task BeginAsync(bool accounts, params string[] settings)
    {
        _database = await TestDatabase.DemoAsync(empty: true, accounts: accounts);
        (_first, _second) = (await ServerProcess.StartAsync(_database, settings), await ServerProcess.StartAsync(_database, settings));
    }

    private static Task<ApiAnswer> SignInAsync(ApiClient client, string password = Password, string? code = null) =>
        client.PostAsync("/api/v1/session", new { email = Owner, password, code });

    private static Task<ApiAnswer> PutAsync(ApiClient client, string path, object body) =>
        client.SendAsync(HttpMethod.Put, path, JsonContent.Create(body));

    private static async Task<HttpStatusCode> StateAsync(ApiClient client) => (await client.GetAsync("/api/v1/session")).Status;

    [Fact]
    public async Task The_first_owner_is_made_once_however_many_try_at_once()
    {
        await DisposeAsync();
        await BeginAsync(accounts: false);
        using ApiClient here = new(_first), there = new(_second);
        (await there.GetAsync("/api/v1/session/first")).Body!["isOpen"]!.GetValue<bool>().ShouldBeTrue();
        Task<ApiAnswer> Make(ApiClient client, string email, string password = "a good long one") =>
            client.PostAsync(
                "/api/v1/session/first",
                new
                {
                    name = "Ada",
                    email,
                    password,
                }
            );
        ApiAnswer weak = await Make(here, "ada@example.com", "short");
        (weak.Status, weak.Field).ShouldBe((HttpStatusCode.BadRequest, "password"));
        ApiAnswer[] made = await Task.WhenAll(Make(here, "ada@example.com"), Make(there, "eve@example.com"));
        made.Select(answer => answer.Status).Order().ShouldBe([HttpStatusCode.NoContent, HttpStatusCode.Conflict]);
        (await StateAsync(made[0].Status == HttpStatusCode.NoContent ? here : there)).ShouldBe(HttpStatusCode.OK);
        (await there.GetAsync("/api/v1/session/first")).Body!["isOpen"]!.GetValue<bool>().ShouldBeFalse();
    }

    [Fact]
    public async Task Owners_who_have_to_bring_a_code_set_one_up_before_anything_else()
    {
        using ApiClient owner = await ApiClient.SignedInAsync(_first, Owner), elsewhere = await ApiClient.SignedInAsync(_second, Owner);
        JsonObject business = (await owner.GetAsync("/api/v1/setup/business")).Body!.AsObject();
        business["ownersNeedCode"]!.GetValue<bool>().ShouldBeFalse();
        await owner.ChangeAsync("/api/v1/setup/business", business, entry => entry["ownersNeedCode"] = true);

        // It holds at once, for sessions that were open before and on both servers.
        foreach (ApiClient client in new[] { owner, elsewhere })
        {
            (await client.GetAsync("/api/v1/session")).Body!["needsCode"]!.GetValue<bool>().ShouldBeTrue();
            (await client.GetAsync("/api/v1/setup/business")).Status.ShouldBe(HttpStatusCode.Forbidden);
        }

        ApiAnswer made = await owner.PostAsync("/api/v1/session/second-factor", new { password = Password });
        Totp codes = new(Base32Encoding.ToBytes(made.Body!["secret"]!.GetValue<string>()));
        ApiAnswer confirmed = await PutAsync(owner, "/api/v1/session/second-factor", new { code = codes.ComputeTotp() });
        confirmed.Status.ShouldBe(HttpStatusCode.NoContent, confirmed.Body?.ToJsonString());
        (await owner.GetAsync("/api/v1/setup/business")).Body!["ownersNeedCode"]!.GetValue<bool>().ShouldBeTrue();
        using ApiClient others = await ApiClient.SignedInAsync(_first, "manager@harrowmere.test");
        (await others.GetAsync("/api/v1/session")).Body!["needsCode"]!.GetValue<bool>().ShouldBeFalse();
    }

    [Fact]
    public async Task Signing_out_ends_a_session_on_the_other_server_too()
    {
        using ApiClient owner = await ApiClient.SignedInAsync(_first, Owner);
        (await owner.SendAsync(HttpMethod.Delete, "/api/v1/session", null)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await StateAsync(owner)).ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task A_new_password_needs_the_present_one_and_signs_the_other_devices_out()
    {
        using ApiClient here = await ApiClient.SignedInAsync(_first, Owner), there = await ApiClient.SignedInAsync(_second, Owner);
        JsonArray all = (await here.GetAsync("/api/v1/session/all")).Body!.AsArray();
        all.Select(entry => entry!["isThis"]!.GetValue<bool>()).Order().ShouldBe([false, true]);
        (await PutAsync(here, "/api/v1/session/password", new { present = "wrong", password = "another long one" })).Field.ShouldBe(
            "present"
        );
        (await PutAsync(here, "/api/v1/session/password", new { present = Password, password = "short" })).Field.ShouldBe("password");
        (await StateAsync(there)).ShouldBe(HttpStatusCode.OK);
        (await PutAsync(here, "/api/v1/session/password", new { present = Password, password = "another long one" })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await StateAsync(there)).ShouldBe(HttpStatusCode.Unauthorized);
        (await StateAsync(here)).ShouldBe(HttpStatusCode.OK);
        (await SignInAsync(there)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await SignInAsync(there, "another long one")).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task The_other_sessions_are_ended_and_this_one_stays()
    {
        using ApiClient here = await ApiClient.SignedInAsync(_first, Owner), there = await ApiClient.SignedInAsync(_second, Owner);
        (await here.SendAsync(HttpMethod.Delete, "/api/v1/session/others", null)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await StateAsync(here), await StateAsync(there)).ShouldBe((HttpStatusCode.OK, HttpStatusCode.Unauthorized));
    }

    [Fact]
    public async Task A_second_factor_is_asked_for_once_it_was_shown_to_work_and_each_code_is_good_once()
    {
        using ApiClient owner = await ApiClient.SignedInAsync(_first, Owner), stranger = new(_second);
        ApiAnswer made = await owner.PostAsync("/api/v1/session/second-factor", new { });
        made.Body!["picture"]!.GetValue<string>().ShouldContain("<svg");
        Totp codes = new(Base32Encoding.ToBytes(made.Body["secret"]!.GetValue<string>()));
        // Not confirmed yet: the password alone still does.
        (await SignInAsync(stranger)).Status.ShouldBe(HttpStatusCode.OK);
        (await PutAsync(owner, "/api/v1/session/second-factor", new { code = "12" })).Field.ShouldBe("code");
        DateTime now = DateTime.UtcNow;
        string present = codes.ComputeTotp(now), next = codes.ComputeTotp(now.AddSeconds(30));
        (await PutAsync(owner, "/api/v1/session/second-factor", new { code = present })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await SignInAsync(stranger)).Code.ShouldBe("code-needed");
        (await SignInAsync(stranger, code: present)).Code.ShouldBe("code-wrong");
        (await SignInAsync(stranger, "not it", next)).Code.ShouldBe("sign-in");
        (await SignInAsync(stranger, code: next)).Status.ShouldBe(HttpStatusCode.OK);
        (await owner.PostAsync("/api/v1/session/second-factor/off", new { password = "not it" })).Field.ShouldBe("password");
        (await owner.PostAsync("/api/v1/session/second-factor/off", new { password = Password })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await SignInAsync(stranger)).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Leaving_the_code_out_wins_no_new_tries_at_it()
    {
        using ApiClient owner = await ApiClient.SignedInAsync(_first, Owner), thief = new(_second);
        ApiAnswer made = await owner.PostAsync("/api/v1/session/second-factor", new { });
        Totp codes = new(Base32Encoding.ToBytes(made.Body!["secret"]!.GetValue<string>()));
        (await PutAsync(owner, "/api/v1/session/second-factor", new { code = codes.ComputeTotp() })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        for (int i = 0; i < 3; i++)
        {
            (await SignInAsync(thief, code: "abcdef")).Code.ShouldBe("code-wrong");
            if (i < 2) (await SignInAsync(thief)).Code.ShouldBe("code-needed");
        }

        // The sixth try rests, on either server, and looks like any other failure.
        (await SignInAsync(thief, code: "abcdef")).Code.ShouldBe("sign-in");
    }

    [Fact]
    public async Task The_operator_lets_a_sole_owner_in_again()
    {
        using ApiClient owner = await ApiClient.SignedInAsync(_first, Owner), back = new(_second);
        ApiAnswer made = await owner.PostAsync("/api/v1/session/second-factor", new { });
        Totp codes = new(Base32Encoding.ToBytes(made.Body!["secret"]!.GetValue<string>()));
        (await PutAsync(owner, "/api/v1/session/second-factor", new { code = codes.ComputeTotp() })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await RescueAsync("nobody@harrowmere.test")).Code.ShouldBe(1);
        (int code, string said) = await RescueAsync(Owner);
        code.ShouldBe(0, said);
        string token = said[(said.LastIndexOf('/') + 1)..].Trim();
        (await back.PostAsync("/api/v1/session/password", new { token, password = "found again at last" })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await SignInAsync(back, "found again at last")).Status.ShouldBe(HttpStatusCode.OK);
        (await back.PostAsync("/api/v1/session/password", new { token, password = "a second time never" })).Code.ShouldBe("link-gone");
    }

    [Fact]
    public async Task A_limit_holds_over_all_servers()
    {
        await DisposeAsync();
        await BeginAsync(accounts: true, "--Limits:public-read=6");
        using ApiClient here = new(_first),
            there = new(_second);
        ApiAnswer[] answers = await Task.WhenAll(
            Enumerable.Range(0, 12).Select(i => (i % 2 == 0 ? here : there).GetAsync("/api/public/v1/business"))
        );
        // The minute may change in between; within one no more than the limit are let in.
        int let = answers.Count(answer => answer.Status == HttpStatusCode.OK),
            refused = answers.Count(answer => answer.Code == "too-often");
        (let + refused).ShouldBe(12);
        let.ShouldBeInRange(6, 12);
        if (let < 12) refused.ShouldBePositive();
    }

    private async Task<(int Code, string Said)> RescueAsync(string email)
    {
        string kind = AppContext.BaseDirectory.Contains("/Release/", StringComparison.Ordinal) ? "Release" : "Debug";
        ProcessStartInfo start = new("dotnet") { RedirectStandardOutput = true };
        foreach (
            string word in new[]
            {
                Path.Combine(ServerProcess.Root(), "src/Kingcup.Server/bin", kind, "net10.0/Kingcup.Server.dll"),
                "rescue",
                email,
            }
        )
            start.ArgumentList.Add(word);
        start.Environment["KINGCUP_DATABASE"] = _database.ConnectionString;
        using Process process = Process.Start(start)!;
        string said = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        return (process.ExitCode, said);
    }
}
