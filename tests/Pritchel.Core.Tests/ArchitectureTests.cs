using System.Reflection;
using Pritchel.Core.Networks;
using Pritchel.Core.Simulation;

namespace Pritchel.Core.Tests;

/// <summary>Dependencies point inwards: the core knows nobody.</summary>
public class ArchitectureTests
{
    [Fact]
    public void The_core_refers_to_nothing_but_the_runtime() =>
        Assert.All(
            typeof(Circuit).Assembly.GetReferencedAssemblies(),
            a =>
                Assert.True(
                    a.Name!.StartsWith("System", StringComparison.Ordinal)
                        && !a.Name.StartsWith("System.Data", StringComparison.Ordinal),
                    a.Name
                )
        );

    [Fact]
    public void The_solver_and_diagnosis_name_no_device()
    {
        var devices = typeof(Circuit).Assembly.GetTypes().Where(t => t.IsSubclassOf(typeof(Device))).ToHashSet();
        const BindingFlags All =
            BindingFlags.Instance
            | BindingFlags.Static
            | BindingFlags.Public
            | BindingFlags.NonPublic
            | BindingFlags.DeclaredOnly;
        var solver = typeof(Circuit)
            .Assembly.GetTypes()
            .Where(t =>
                t.Namespace is "Pritchel.Core.Diagnosis"
                || t == typeof(CircuitState)
                || t == typeof(Elimination)
                || t == typeof(Network)
            );
        Assert.All(solver, t => Assert.DoesNotContain(t.GetFields(All).Select(f => f.FieldType), devices.Contains));
        Assert.All(
            solver.SelectMany(t => t.GetMethods(All)),
            m =>
                Assert.DoesNotContain(
                    m.GetMethodBody()?.LocalVariables.Select(l => l.LocalType) ?? [],
                    devices.Contains
                )
        );
    }
}
