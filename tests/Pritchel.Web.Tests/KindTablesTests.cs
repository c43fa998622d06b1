using System.Collections;
using System.Reflection;
using Pritchel.Core.PartTests;
using Pritchel.Core.Practice;
using Pritchel.Core.Simulation;
using Pritchel.Web.Desk;

namespace Pritchel.Web.Tests;

/// <summary>What is kept by the name of a kind names kinds that there are: a name spelt otherwise would be found by nobody.</summary>
public class KindTablesTests
{
    [Theory]
    [InlineData(typeof(CauseClass), "ByKind")]
    [InlineData(typeof(CauseClass), "ByRole")]
    [InlineData(typeof(SheetWords), "Kinds")]
    public void Tables_by_kind_name_kinds_that_exist(Type of, string table)
    {
        var field = of.GetField(table, BindingFlags.NonPublic | BindingFlags.Static);
        var keys = ((IDictionary)field!.GetValue(null)!).Keys.Cast<object>();
        var named = keys.Select(k => k is ValueTuple<string, string> both ? both.Item1 : (string)k);
        Assert.All(named, n => Assert.NotNull(DeviceKinds.Named(n)));
    }

    [Fact]
    public void Every_regulator_behind_a_winding_can_be_judged_running_and_is_called_a_regulator()
    {
        var regulators = DeviceKinds.All.Where(k => k.Regulates).ToList();
        Assert.Equal(6, regulators.Count);
        Assert.All(
            regulators,
            k =>
            {
                Assert.Equal("regulator", SheetCatalogue.For(k).First(s => s.IsAtWork).Key);
                Assert.StartsWith("Regulator", SheetWords.Kind(k.Name), StringComparison.Ordinal);
            }
        );
    }
}
