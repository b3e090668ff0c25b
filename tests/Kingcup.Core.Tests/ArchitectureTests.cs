using System.Reflection;
using Kingcup.Core.Time;
using NetArchTest.Rules;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests;

/// <summary>Keeps the arrows of the house pointing down: demo, server, storage, core.</summary>
public sealed class ArchitectureTests
{
    private static readonly Assembly _core = typeof(Grain).Assembly;
    private static readonly Assembly _storage = typeof(Storage.Database).Assembly;
    private static readonly Assembly _server = typeof(Server.KingcupServer).Assembly;

    [Fact]
    public void The_core_knows_neither_database_nor_web_nor_JSON() =>
        Nothing(
            _core,
            "Kingcup.Storage",
            "Kingcup.Server",
            "Kingcup.Demo",
            "Npgsql",
            "Dapper",
            "Microsoft.AspNetCore",
            "System.Text.Json",
            "System.IO",
            "System.Net.Http"
        );

    [Fact]
    public void The_storage_knows_nothing_above_it() => Nothing(_storage, "Kingcup.Server", "Kingcup.Demo", "Microsoft.AspNetCore");

    [Fact]
    public void The_server_does_not_know_the_demo() => Nothing(_server, "Kingcup.Demo");

    [Fact]
    public void The_core_has_no_clock() => Nothing(_core, "NodaTime.SystemClock", "System.DateTime", "System.DateTimeOffset");

    [Fact]
    public void Nothing_is_named_after_an_office()
    {
        string[] offices = ["Manager", "Helper", "Util", "Utils", "Common"];
        foreach (Assembly assembly in new[] { _core, _storage, _server })
        {
            assembly
                .GetTypes()
                .Where(type =>
                    type.Namespace?.StartsWith("Kingcup", StringComparison.Ordinal) == true
                    && offices.Any(office => type.Name.EndsWith(office, StringComparison.Ordinal))
                )
                .ShouldBeEmpty();
        }
    }

    private static readonly string[] _features =
    [
        "Business", "Team", "Rooms", "Services", "Calendar", "Availability", "Booking", "Clients", "Money", "Plans", "Groups",
        "Waitlist", "Messages", "Forms", "Exchange", "Figures", "SignIn",
    ];

    [Theory]
    [InlineData("src/Kingcup.Core", "Time")]
    [InlineData("src/Kingcup.Storage", "Migrations")]
    [InlineData("src/Kingcup.Server", "Api Live")]
    [InlineData("src/web/src/features", "")]
    [InlineData("tests/Kingcup.Core.Tests", "Time Reference")]
    [InlineData("tests/Kingcup.Storage.Tests", "Dumps")]
    [InlineData("tests/Kingcup.Server.Tests", "Api")]
    [InlineData("tests/Kingcup.Browser.Tests", "")]
    public void A_feature_has_one_name_on_every_floor(string floor, string beside)
    {
        HashSet<string> known = new([.. _features, .. beside.Split(' '), "bin", "obj"], StringComparer.OrdinalIgnoreCase);
        Directory
            .GetDirectories(Path.Combine(Root(), floor))
            .Select(folder => Path.GetFileName(folder)!)
            .Where(name => !known.Contains(name))
            .ShouldBeEmpty();
    }

    [Fact]
    public void No_record_has_more_than_seven_positional_parameters()
    {
        foreach (Assembly assembly in new[] { _core, _storage, _server, typeof(Demo.DemoLoader).Assembly })
        {
            assembly
                .GetTypes()
                .Where(type => type.Namespace?.StartsWith("Kingcup", StringComparison.Ordinal) == true)
                .Where(type => type.GetMethods().Any(method => method.Name == "Deconstruct" && method.GetParameters().Length > 7))
                .Select(type => type.Name)
                .ShouldBeEmpty();
        }
    }

    internal static string Root()
    {
        string folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "Kingcup.slnx"))) folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    private static void Nothing(Assembly assembly, params string[] dependencies)
    {
        NetArchTest.Rules.TestResult result = Types.InAssembly(assembly).ShouldNot().HaveDependencyOnAny(dependencies).GetResult();
        (result.FailingTypeNames ?? []).ShouldBeEmpty();
    }
}
