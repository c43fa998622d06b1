using System.Reflection;

namespace Pritchel.Core.Simulation;

/// <summary>
/// Finds devices, observables and procedures in this assembly and in every loaded one that refers to it: what is added is
/// one new file, wherever it lies.
/// </summary>
public static class Extensions
{
    /// <summary>Types that can be made and are of a kind.</summary>
    /// <param name="kind">The kind: also one with static members, which cannot be a type argument.</param>
    public static IEnumerable<Type> TypesOf(Type kind)
    {
        var core = typeof(Extensions).Assembly;
        return AppDomain
            .CurrentDomain.GetAssemblies()
            .Where(a => a == core || Refers(a, core))
            .SelectMany(a => a.GetTypes())
            .Where(t => !t.IsAbstract && !t.IsInterface && t.IsAssignableTo(kind));
    }

    /// <summary>One of each of them, made without arguments.</summary>
    /// <typeparam name="T">The kind.</typeparam>
    public static IEnumerable<T> Of<T>() =>
        TypesOf(typeof(T))
            .Where(t => t.GetConstructor(Type.EmptyTypes) is not null)
            .Select(t => (T)Activator.CreateInstance(t)!);

    private static bool Refers(Assembly assembly, Assembly core) =>
        !assembly.IsDynamic && assembly.GetReferencedAssemblies().Any(r => r.Name == core.GetName().Name);
}
