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

    private static void Nothing(Assembly assembly, params string[] dependencies)
    {
        NetArchTest.Rules.TestResult result = Types.InAssembly(assembly).ShouldNot().HaveDependencyOnAny(dependencies).GetResult();
        (result.FailingTypeNames ?? []).ShouldBeEmpty();
    }
}
